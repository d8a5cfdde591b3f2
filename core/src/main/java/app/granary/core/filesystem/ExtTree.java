package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * Files of ext2, ext3 and ext4. Inode: mode 0x0, size 0x4 and 0x6C (high), modified 0x10, flags 0x20, extra fields 0x80 (their length),
 * more of modified 0x88: two bits of the year, the rest nanoseconds (kernel documentation, "Index Nodes", "Inode Timestamps").
 */
final class ExtTree implements FileTree {
    private static final int ENCRYPTED = 0x800;
    private static final int LINK = 0xA000;
    private static final int KIND = 0xF000;
    private static final int MAP_BYTES = 60;
    /** Enough for {@link FileTree#MOST_ENTRIES}; a number of an inode has 32. */
    private static final int PLACE_BITS = 24;
    /** So many inodes are read by one thread, and more in so many parts at once. */
    private static final int AT_ONCE = 20_000;
    private static final int PARTS = 2;

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;
    private final ExtInodes inodes;

    ExtTree(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
        this.inodes = new ExtInodes(source, start, fs);
    }

    @Override
    public FileEntry root() {
        return new FileEntry("", FileEntry.Kind.FOLDER, 0, Instant.EPOCH, "", FileEntry.Id.of(ExtInodes.ROOT));
    }

    @Override
    public List<FileEntry> list(FileEntry folder) throws IOException {
        List<ExtInodes.Entry> names = names(folder, "");
        FileEntry[] out = new FileEntry[names.size()];
        // a large folder has its names in the order of their hashes; their inodes are read in the order they lie in
        long[] inOrder = IntStream.range(0, out.length).mapToLong(i -> names.get(i).inode() << PLACE_BITS | i).sorted().toArray();
        int parts = inOrder.length < AT_ONCE ? 1 : PARTS;
        try {
            IntStream.range(0, parts).parallel().forEach(part -> {
                ExtInodes own = inodes.another();
                for (int at = (int) ((long) inOrder.length * part / parts); at < (long) inOrder.length * (part + 1) / parts; at++) {
                    int i = (int) (inOrder[at] & (1 << PLACE_BITS) - 1);
                    out[i] = readBy(own, names.get(i));
                }
            });
        } catch (UncheckedIOException failed) {
            throw failed.getCause();
        }
        return List.of(out);
    }

    private FileEntry readBy(ExtInodes own, ExtInodes.Entry named) {
        try {
            return entry(own, named);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** The inodes of the others are not read. */
    @Override
    public Optional<FileEntry> find(FileEntry folder, String name) throws IOException {
        List<ExtInodes.Entry> found = names(folder, name);
        return found.isEmpty() ? Optional.empty() : Optional.of(entry(inodes, found.get(0)));
    }

    /** @param only the one name that is wanted; empty for all */
    private List<ExtInodes.Entry> names(FileEntry folder, String only) throws IOException {
        List<ExtInodes.Entry> out = new ArrayList<>();
        try {
            Bytes inode = inodes.read(folder.id().number());
            Untrusted.unless(ExtInodes.isDirectory(inode), "it is no folder");
            for (ExtFile.Run run : ExtFile.runs(source, start, fs, inode)) {
                for (long block = run.block(); block < run.block() + run.count(); block++) {
                    for (ExtInodes.Entry each : ExtInodes.entries(Bytes.read(source, start + block * fs.blockBytes(), fs.blockBytes()))) {
                        boolean dots = each.name().equals(".") || each.name().equals("..");
                        if (!dots && (only.isEmpty() || each.name().equals(only))) {
                            out.add(each);
                        }
                    }
                    Untrusted.unless(out.size() <= MOST_ENTRIES, "it holds more names than a folder can");
                }
            }
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(folder, nonsense.getMessage());
        }
        return out;
    }

    private FileEntry entry(ExtInodes inodes, ExtInodes.Entry named) throws IOException {
        try {
            Bytes inode = inodes.read(named.inode());
            FileEntry.Kind kind = ExtInodes.isDirectory(inode) ? FileEntry.Kind.FOLDER : ExtInodes.isFile(inode) ? FileEntry.Kind.FILE
                : (inode.u16(0) & KIND) == LINK ? FileEntry.Kind.LINK : FileEntry.Kind.OTHER;
            long bytes = inode.u32(0x4) | inode.u32(0x6C) << 32;
            String unreadable = bytes < 0 ? "its length makes no sense"
                : (inode.u32(0x20) & ENCRYPTED) != 0 ? "it is encrypted by its system"
                : (inode.u32(0x20) & ExtFile.INLINE) != 0 && bytes > MAP_BYTES ? "its content lies in its inode" : "";
            return new FileEntry(named.name(), kind, kind == FileEntry.Kind.FILE ? Math.max(0, bytes) : 0, modified(inode), unreadable,
                FileEntry.Id.of(named.inode()));
        } catch (Untrusted nonsense) {
            return new FileEntry(named.name(), FileEntry.Kind.OTHER, 0, Instant.EPOCH, nonsense.getMessage(),
                FileEntry.Id.of(named.inode()));
        }
    }

    private Instant modified(Bytes inode) {
        long seconds = (int) inode.u32(0x10);
        boolean more = fs.inodeBytes() > 128 && inode.u16(0x80) >= 12;
        long extra = more ? inode.u32(0x88) : 0;
        return Instant.ofEpochSecond(seconds + ((extra & 3) << 32), Math.min(999_999_999, extra >>> 2));
    }

    @Override
    public InputStream content(FileEntry file) throws IOException {
        return new FileContent(source, file, pieces(file));
    }

    @Override
    public List<FilePiece> pieces(FileEntry file) throws IOException {
        try {
            Bytes inode = inodes.read(file.id().number());
            Untrusted.unless(file.unreadable().isEmpty(), file.unreadable());
            if ((inode.u32(0x20) & ExtFile.INLINE) != 0) {
                return file.bytes() == 0 ? List.of()
                    : List.of(new FilePiece(start + inodes.offset(file.id().number()) + ExtFile.MAP_AT, file.bytes()));
            }
            return placed(ExtFile.runs(source, start, fs, inode), file.bytes());
        } catch (Untrusted nonsense) {
            throw FileTree.damaged(file, nonsense.getMessage());
        }
    }

    private List<FilePiece> placed(List<ExtFile.Run> runs, long bytes) throws Untrusted {
        List<FilePiece> out = new ArrayList<>();
        long at = 0;
        for (ExtFile.Run run : runs) {
            long from = run.fileBlock() * fs.blockBytes();
            Untrusted.unless(from >= at || at >= bytes, "its map runs backwards");
            if (from >= bytes) {
                break; // kept for it behind its end
            }
            if (from > at) {
                out.add(new FilePiece(FilePiece.ZEROS, from - at));
            }
            long length = Math.min(bytes - from, run.count() * fs.blockBytes());
            out.add(new FilePiece(run.written() ? start + run.block() * fs.blockBytes() : FilePiece.ZEROS, length));
            at = from + length;
        }
        if (at < bytes) {
            out.add(new FilePiece(FilePiece.ZEROS, bytes - at));
        }
        return out;
    }
}
