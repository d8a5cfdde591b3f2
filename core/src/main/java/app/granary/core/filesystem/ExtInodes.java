package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * The inodes of an ext file system, and the entries of its directories. Directory entry: inode 0x0, record length 0x4, name length 0x6,
 * kind 0x7 (1: a file, 2: a directory), name 0x8; the inner blocks of an indexed directory look like one empty entry (kernel
 * documentation, "Directory Entries", "Hash Tree Directories").
 */
final class ExtInodes {
    static final int ROOT = 2;
    private static final int FILE_TYPE_MASK = 0xF000;
    private static final int REGULAR = 0x8000;
    private static final int DIRECTORY = 0x4000;
    private static final int ENTRY_IS_FILE = 1;
    private static final int ENTRY_IS_DIRECTORY = 2;
    private static final long WINDOW = 64 << 10;

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;

    /**
     * A name in a directory, and what it stands for.
     *
     * @param kind as the directory has it: 1 a file, 2 a directory; said only where {@link ExtSuperblock#namesTellKinds}
     */
    record Entry(String name, long inode, int kind) {
        boolean isFolder() {
            return kind == ENTRY_IS_DIRECTORY;
        }

        boolean isFile() {
            return kind == ENTRY_IS_FILE;
        }
    }

    ExtInodes(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
    }

    Bytes read(long number) throws IOException, Untrusted {
        long at = start + offset(number);
        long from = at - at % WINDOW;
        if (at + fs.inodeBytes() > from + WINDOW) {
            return Bytes.read(source, at, fs.inodeBytes());
        }
        Window known = window;
        if (known.from != from) {
            try {
                known = new Window(from, Bytes.read(source, from, (int) Math.min(WINDOW, source.sizeBytes() - from)));
            } catch (FaultException damagedNearby) {
                return Bytes.read(source, at, fs.inodeBytes());
            }
            window = known;
        }
        return known.bytes.part((int) (at - from), fs.inodeBytes());
    }

    /** What was read last around an inode: a folder's inodes lie mostly side by side. */
    private volatile Window window = new Window(-1, Bytes.of(new byte[0]));

    private record Window(long from, Bytes bytes) {
    }

    /** The last of them, which the next inode mostly needs too. */
    private volatile Descriptors last = new Descriptors(-1, Bytes.of(new byte[0]));

    private record Descriptors(long block, Bytes bytes) {
    }

    private Bytes descriptors(long block) throws IOException {
        Descriptors known = last;
        if (known.block != block) {
            known = new Descriptors(block, Bytes.read(source, start + fs.descriptorBlock(block) * fs.blockBytes(), fs.blockBytes()));
            last = known;
        }
        return known.bytes;
    }

    /** Where an inode lies, in bytes of the partition. */
    long offset(long number) throws IOException, Untrusted {
        long group = (number - 1) / fs.inodesPerGroup();
        Untrusted.unless(number > 0 && group < fs.groups(), "there is no such inode");
        long perBlock = fs.blockBytes() / fs.descriptorBytes();
        Bytes descriptors = descriptors(group / perBlock);
        int at = (int) (group % perBlock) * fs.descriptorBytes();
        long table = descriptors.u32(at + 0x8) | (fs.wide() ? descriptors.u32(at + 0x28) << 32 : 0);
        long offset = (number - 1) % fs.inodesPerGroup() * fs.inodeBytes();
        Untrusted.unless(table > 0 && table < fs.blocks() - offset / fs.blockBytes(), "its inode table lies outside the file system");
        return table * fs.blockBytes() + offset;
    }

    /** Length of one. */
    int bytes() {
        return fs.inodeBytes();
    }

    /** The same inodes, for another thread: what was read last is each one's own. */
    ExtInodes another() {
        return new ExtInodes(source, start, fs);
    }

    static boolean isFile(Bytes inode) {
        return (inode.u16(0) & FILE_TYPE_MASK) == REGULAR;
    }

    static boolean isDirectory(Bytes inode) {
        return (inode.u16(0) & FILE_TYPE_MASK) == DIRECTORY;
    }

    /** The entries of one block of a directory, up to the first that makes no sense; empty ones are passed over. */
    static List<Entry> entries(Bytes directory) {
        List<Entry> out = new ArrayList<>();
        int at = 0;
        while (at + 8 <= directory.length()) {
            int length = directory.u16(at + 4);
            int name = directory.u8(at + 6);
            if (length < 8 || length % 4 != 0 || at + length > directory.length() || 8 + name > length) {
                return out;
            }
            if (directory.u32(at) != 0) {
                out.add(new Entry(new String(directory.slice(at + 8, name), StandardCharsets.UTF_8), directory.u32(at),
                    directory.u8(at + 7)));
            }
            at += length;
        }
        return out;
    }
}
