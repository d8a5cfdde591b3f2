package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Where the content of one file of ext2, ext3 or ext4 lies. Kernel documentation, "Index Nodes", "Block and Inode Structures", "Extent
 * Tree": inode mode 0x0, flags 0x20, block map or tree 0x28 (60 bytes); tree header magic 0x0 (F30A), entries 0x2, depth 0x6; leaf block
 * 0x0, length 0x4 (above 32 768: not yet written), start 0x6 (high) and 0x8; index leaf 0x4 and 0x8 (high).
 */
final class ExtFile {
    private static final int USES_EXTENTS = 0x80000;
    static final int INLINE = 0x1000_0000;
    static final int MAP_AT = 0x28;
    private static final int TREE_MAGIC = 0xF30A;
    private static final int MOST_DEPTH = 5;
    /** Tree and map blocks read for one file; a swap file of a terabyte in one piece needs a handful. */
    private static final int MOST_BLOCKS = 20_000;

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;
    private final List<long[]> maps = new ArrayList<>();
    private final List<Run> runs = new ArrayList<>();
    private long mappedSoFar;
    private int blocksRead;

    /**
     * Blocks that follow each other, in the file as on the disk.
     *
     * @param fileBlock the first one's number in the file
     * @param block     its number in the file system
     * @param written   whether they were ever written; what was only set aside reads as zeros
     */
    record Run(long fileBlock, long block, long count, boolean written) {
    }

    private ExtFile(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
    }

    /** @return block ranges {@code {first, end}} in the order of the file; holes are left out */
    static List<long[]> blocks(BlockSource source, long start, ExtSuperblock fs, Bytes inode) throws IOException, Untrusted {
        return read(source, start, fs, inode).pieces();
    }

    /** In the order of the map; holes are left out. */
    static List<Run> runs(BlockSource source, long start, ExtSuperblock fs, Bytes inode) throws IOException, Untrusted {
        return read(source, start, fs, inode).runs;
    }

    /** @return block ranges of the content, and then of the blocks that say where it lies */
    static List<long[]> blocksAndMaps(BlockSource source, long start, ExtSuperblock fs, Bytes inode) throws IOException, Untrusted {
        ExtFile file = read(source, start, fs, inode);
        List<long[]> out = file.pieces();
        out.addAll(file.maps);
        return out;
    }

    private static ExtFile read(BlockSource source, long start, ExtSuperblock fs, Bytes inode) throws IOException, Untrusted {
        ExtFile file = new ExtFile(source, start, fs);
        Untrusted.unless((inode.u32(0x20) & INLINE) == 0, "its content lies in the inode");
        if ((inode.u32(0x20) & USES_EXTENTS) != 0) {
            file.tree(Bytes.of(inode.slice(MAP_AT, 60)), MOST_DEPTH);
        } else {
            for (int i = 0; i < 15; i++) {
                file.mapped(inode.u32(MAP_AT + 4 * i), Math.max(0, i - 11));
            }
        }
        return file;
    }

    private void tree(Bytes node, int deepest) throws IOException, Untrusted {
        int entries = node.u16(2);
        int depth = node.u16(6);
        Untrusted.unless(node.u16(0) == TREE_MAGIC && depth <= deepest && 12 + 12 * entries <= node.length(),
            "its extent tree makes no sense");
        for (int i = 1; i <= entries; i++) {
            int at = 12 * i;
            if (depth == 0) {
                int length = node.u16(at + 4);
                long first = (long) node.u16(at + 6) << 32 | node.u32(at + 8);
                add(node.u32(at), first, length > 32768 ? length - 32768 : length, length <= 32768);
            } else {
                tree(read((long) node.u16(at + 8) << 32 | node.u32(at + 4)), depth - 1);
            }
        }
    }

    /** @param level 0 for a block of content, 1 to 3 for a block of block numbers */
    private void mapped(long block, int level) throws IOException, Untrusted {
        if (block == 0) {
            mappedSoFar += covered(level);
            return;
        }
        if (level == 0) {
            add(mappedSoFar++, block, 1, true);
            return;
        }
        Bytes numbers = read(block);
        for (int at = 0; at < numbers.length(); at += 4) {
            mapped(numbers.u32(at), level - 1);
        }
    }

    /** Blocks of the file that one number at that level stands for. */
    private long covered(int level) {
        long out = 1;
        for (int i = 0; i < level; i++) {
            out *= fs.blockBytes() / 4;
        }
        return out;
    }

    private Bytes read(long block) throws IOException, Untrusted {
        Untrusted.unless(block > 0 && block < fs.blocks() && ++blocksRead <= MOST_BLOCKS, "its map leads outside the file system");
        maps.add(new long[] {block, block + 1});
        return Bytes.read(source, start + block * fs.blockBytes(), fs.blockBytes());
    }

    private void add(long fileBlock, long first, long count, boolean written) throws Untrusted {
        Untrusted.unless(first > 0 && count > 0 && first <= fs.blocks() - count, "its map leads outside the file system");
        Run last = runs.isEmpty() ? new Run(0, 0, 0, false) : runs.get(runs.size() - 1);
        if (written && last.written && last.block + last.count == first && last.fileBlock + last.count == fileBlock) {
            runs.set(runs.size() - 1, new Run(last.fileBlock, last.block, last.count + count, true));
        } else {
            runs.add(new Run(fileBlock, first, count, written));
        }
    }

    /** Where the runs lie, wherever in the file; those that touch are one. */
    private List<long[]> pieces() {
        List<long[]> out = new ArrayList<>();
        for (Run run : runs) {
            if (!out.isEmpty() && out.get(out.size() - 1)[1] == run.block) {
                out.get(out.size() - 1)[1] = run.block + run.count;
            } else {
                out.add(new long[] {run.block, run.block + run.count});
            }
        }
        return out;
    }
}
