package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.io.InputStream;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;

/**
 * Files of FAT12, FAT16 and FAT32, by the entries that {@link FatEntries} reads. Time of the last change 22 and its date 24, length 28 (FAT
 * specification 1.03, "FAT Directory Structure", "Date and Time Formats").
 */
final class FatTree implements FileTree {
    private static final int DIRECTORY = 0x10;

    private final BlockSource source;
    private final long start;
    private final FatGeometry fat;
    private final ClusterChain chain;

    FatTree(BlockSource source, long start, FatGeometry fat) {
        this.source = source;
        this.start = start;
        this.fat = fat;
        this.chain = new ClusterChain(source, start + fat.fatStart(), fat.fatBytes(), fat.bits(), fat.entryMask(), fat.clusters());
    }

    /** Of FAT12 and FAT16 it lies apart, in no cluster. */
    @Override
    public FileEntry root() {
        return new FileEntry("", FileEntry.Kind.FOLDER, 0, Instant.EPOCH, "", FileEntry.Id.of(fat.rootCluster()));
    }

    @Override
    public List<FileEntry> list(FileEntry folder) throws IOException {
        List<FileEntry> out = new ArrayList<>();
        FatEntries entries = new FatEntries(fat.bits() == 32,
            (name, directory, at, cluster) -> out.add(entry(name, directory, at, cluster)));
        try {
            if (folder.id().number() == 0) {
                Untrusted.unless(fat.bits() != 32, "it has no clusters");
                entries.read(Bytes.read(source, start + fat.rootStart(), fat.rootBytes()));
            } else {
                chain.walk(folder.id().number(), cluster -> {
                    Untrusted.unless(out.size() <= MOST_ENTRIES, "it holds more names than a folder can");
                    return entries.read(Bytes.read(source, start + fat.clusterStart(cluster), (int) fat.clusterBytes()));
                });
            }
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(folder, nonsense.getMessage());
        }
        return out;
    }

    private static FileEntry entry(String name, Bytes directory, int at, long cluster) {
        boolean folder = (directory.u8(at + 11) & DIRECTORY) != 0;
        return new FileEntry(name, folder ? FileEntry.Kind.FOLDER : FileEntry.Kind.FILE, folder ? 0 : directory.u32(at + 28),
            moment(directory.u16(at + 24), directory.u16(at + 22), 0), "", FileEntry.Id.of(cluster));
    }

    /** @param hundredths of a second besides, which only exFAT keeps */
    static Instant moment(int date, int time, int hundredths) {
        try {
            return LocalDateTime.of(1980 + (date >> 9), date >> 5 & 15, date & 31, time >> 11, time >> 5 & 63, (time & 31) * 2)
                .plusNanos(hundredths * 10_000_000L).toInstant(ZoneOffset.UTC);
        } catch (DateTimeException never) {
            return Instant.EPOCH; // no date was ever written
        }
    }

    @Override
    public InputStream content(FileEntry file) throws IOException {
        return new FileContent(source, file, pieces(file));
    }

    @Override
    public List<FilePiece> pieces(FileEntry file) throws IOException {
        return chained(chain, file, start + fat.clusterStart(2), fat.clusterBytes());
    }

    /** @param heap where cluster 2 lies on the disk */
    static List<FilePiece> chained(ClusterChain chain, FileEntry file, long heap, long clusterBytes) throws IOException {
        List<FilePiece> out = new ArrayList<>();
        long[] left = {file.bytes()};
        try {
            if (left[0] > 0) {
                chain.walk(file.id().number(), cluster -> {
                    long length = Math.min(left[0], clusterBytes);
                    add(out, heap + (cluster - 2) * clusterBytes, length);
                    left[0] -= length;
                    return left[0] > 0;
                });
            }
            Untrusted.unless(left[0] == 0, "its chain of clusters ends before it does");
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(file, nonsense.getMessage());
        }
        return out;
    }

    private static void add(List<FilePiece> out, long at, long length) {
        FilePiece last = out.isEmpty() ? new FilePiece(FilePiece.ZEROS, 1) : out.get(out.size() - 1);
        if (last.atBytes() != FilePiece.ZEROS && last.atBytes() + last.lengthBytes() == at) {
            out.set(out.size() - 1, new FilePiece(last.atBytes(), last.lengthBytes() + length));
        } else {
            out.add(new FilePiece(at, length));
        }
    }
}
