package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Names in a folder of ext2, ext3 or ext4, whose inodes are read when they are wanted. Inode: mode 0x0, size 0x4 and 0x6C (high), modified
 * 0x10, flags 0x20, extra fields 0x80 (their length), more of modified 0x88: two bits of the year, the rest nanoseconds (kernel
 * documentation, "Index Nodes", "Inode Timestamps").
 */
final class ExtNames implements FileNames {
    private static final int ENCRYPTED = 0x800;
    private static final int LINK = 0xA000;
    private static final int KIND = 0xF000;
    private static final int MAP_BYTES = 60;
    /** Enough for {@link FileTree#MOST_ENTRIES}; a number of an inode has 32. */
    private static final int PLACE_BITS = 24;
    /** So many inodes are read by one thread, and more in so many parts at once. */
    private static final int AT_ONCE = 2_000;
    private static final int PARTS = 2;

    private final List<ExtInodes.Entry> names;
    private final ExtInodes inodes;

    ExtNames(List<ExtInodes.Entry> names, ExtInodes inodes) {
        this.names = List.copyOf(names);
        this.inodes = inodes;
    }

    @Override
    public int count() {
        return names.size();
    }

    @Override
    public String name(int place) {
        return names.get(place).name();
    }

    @Override
    public boolean isFolder(int place) {
        return names.get(place).isFolder();
    }

    /** A large folder has its names in the order of their hashes; their inodes are read in the order they lie in. */
    @Override
    public List<FileEntry> entries(int[] places) throws IOException {
        FileEntry[] out = new FileEntry[places.length];
        long[] inOrder = IntStream.range(0, out.length).mapToLong(i -> names.get(places[i]).inode() << PLACE_BITS | i).sorted().toArray();
        int parts = inOrder.length < AT_ONCE ? 1 : PARTS;
        try {
            IntStream.range(0, parts).parallel().forEach(part -> {
                ExtInodes own = inodes.another();
                for (int at = (int) ((long) inOrder.length * part / parts); at < (long) inOrder.length * (part + 1) / parts; at++) {
                    int i = (int) (inOrder[at] & (1 << PLACE_BITS) - 1);
                    out[i] = entry(own, names.get(places[i]));
                }
            });
        } catch (UncheckedIOException failed) {
            throw failed.getCause();
        }
        return List.of(out);
    }

    private static FileEntry entry(ExtInodes inodes, ExtInodes.Entry named) {
        try {
            Bytes inode = inodes.read(named.inode());
            FileEntry.Kind kind = ExtInodes.isDirectory(inode) ? FileEntry.Kind.FOLDER : ExtInodes.isFile(inode) ? FileEntry.Kind.FILE
                : (inode.u16(0) & KIND) == LINK ? FileEntry.Kind.LINK : FileEntry.Kind.OTHER;
            long bytes = inode.u32(0x4) | inode.u32(0x6C) << 32;
            String unreadable = bytes < 0 ? "its length makes no sense"
                : (inode.u32(0x20) & ENCRYPTED) != 0 ? "it is encrypted by its system"
                : (inode.u32(0x20) & ExtFile.INLINE) != 0 && bytes > MAP_BYTES ? "its content lies in its inode" : "";
            return new FileEntry(named.name(), kind, kind == FileEntry.Kind.FILE ? Math.max(0, bytes) : 0, modified(inodes, inode),
                unreadable, FileEntry.Id.of(named.inode()));
        } catch (Untrusted nonsense) {
            return lost(named, nonsense.getMessage());
        } catch (FaultException told) {
            if (told.fault().kind() != Fault.Kind.DAMAGED) {
                throw new UncheckedIOException(told);
            }
            return lost(named, "what its file system says of it is damaged"); // the others of the folder are sound
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static FileEntry lost(ExtInodes.Entry named, String why) {
        FileEntry.Kind kind = named.isFolder() ? FileEntry.Kind.FOLDER : named.isFile() ? FileEntry.Kind.FILE : FileEntry.Kind.OTHER;
        return new FileEntry(named.name(), kind, 0, Instant.EPOCH, why, FileEntry.Id.of(named.inode()));
    }

    private static Instant modified(ExtInodes inodes, Bytes inode) {
        long seconds = (int) inode.u32(0x10);
        boolean more = inodes.bytes() > 128 && inode.u16(0x80) >= 12;
        long extra = more ? inode.u32(0x88) : 0;
        return Instant.ofEpochSecond(seconds + ((extra & 3) << 32), Math.min(999_999_999, extra >>> 2));
    }
}
