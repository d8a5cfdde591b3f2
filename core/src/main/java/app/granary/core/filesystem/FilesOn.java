package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.util.TreeSet;

/**
 * Tells which files lie on given bytes of a partition, for ext, NTFS and FAT. What is read on the way may be damaged itself: that costs
 * names, never the answer.
 */
public final class FilesOn {
    /** Files and folders looked at; an office computer has a million at most. */
    static final long MOST_LOOKED_AT = 4_000_000;

    private final Extents damaged;
    private final TreeSet<String> paths = new TreeSet<>();
    private long count;
    private String note = "";

    private FilesOn(Extents damaged) {
        this.damaged = damaged;
    }

    /**
     * @param source     the disk, or an image of it; damaged bytes read as zeros
     * @param startBytes first byte of the partition
     * @param sizeBytes  its length
     * @param damaged    byte ranges of the partition, from its start
     */
    public static FilesHit find(BlockSource source, long startBytes, long sizeBytes, Extents damaged) throws IOException {
        FilesOn search = new FilesOn(damaged);
        try {
            Bytes head = Bytes.read(source, startBytes, (int) Math.min(Signature.BYTES, sizeBytes));
            switch (Signature.of(head)) {
                case EXT -> new ExtFilesOn(source, startBytes, ExtSuperblock.read(ExtSuperblock.within(head), sizeBytes), search).find();
                case NTFS -> new NtfsFilesOn(new NtfsVolume(source, startBytes, NtfsGeometry.read(head, sizeBytes)), search).find();
                case FAT -> new FatFilesOn(source, startBytes, FatGeometry.read(head, sizeBytes), search).find();
                default -> search.note(
                    "Which files lie there can be told for ext, NTFS and FAT only, where the start of the file system is sound.");
            }
        } catch (Untrusted nonsense) {
            search.note("Which files lie there cannot be told: " + nonsense.getMessage() + ".");
        }
        return new FilesHit(search.paths.stream().toList(), search.count, search.note);
    }

    /** Whether any byte of a range of the partition is damaged. */
    boolean hits(long start, long end) {
        return damaged.bytesWithin(start, end) > 0;
    }

    void add(String path) {
        count++;
        paths.add(path);
        if (paths.size() > FilesHit.MOST) {
            paths.pollLast();
        }
    }

    /** The first reason is the one that is told. */
    void note(String sentence) {
        if (note.isEmpty()) {
            note = sentence;
        }
    }

    void tableHit() {
        note("Part of the table of files lies there too, so more files may be lost than are named.");
    }
}
