package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Swap files of an ext file system, found by name in its root directory (inode 2). Directory entry: inode 0x0, record length 0x4, name length
 * 0x6, name 0x8; the inner blocks of an indexed directory look like one empty entry (kernel documentation, "Directory Entries", "Hash Tree
 * Directories"). Only a file that carries the mark of swap space is left out, all but its first page.
 */
final class ExtLeftOut {
    private static final int ROOT = 2;
    private static final int FILE_TYPE_MASK = 0xF000;
    private static final int REGULAR = 0x8000;
    private static final int PAGE = 4096;
    /** Names in use (common practice, no source). */
    private static final Set<String> NAMES = Set.of("swapfile", "swap.img", "swap");
    /** A root directory is not searched further than this many blocks. */
    private static final int MOST_BLOCKS = 1024;

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;

    private ExtLeftOut(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
    }

    static List<LeftOut> find(BlockSource source, long start, ExtSuperblock fs) throws IOException {
        return new ExtLeftOut(source, start, fs).find();
    }

    private List<LeftOut> find() throws IOException {
        List<LeftOut> out = new ArrayList<>();
        try {
            int looked = 0;
            for (long[] piece : ExtFile.blocks(source, start, fs, inode(ROOT))) {
                for (long block = piece[0]; block < piece[1] && looked++ < MOST_BLOCKS; block++) {
                    entries(Bytes.read(source, start + block * fs.blockBytes(), fs.blockBytes()), out);
                }
            }
        } catch (Untrusted nonsense) {
            return List.of();
        }
        return out;
    }

    private Bytes inode(long number) throws IOException, Untrusted {
        long group = (number - 1) / fs.inodesPerGroup();
        Untrusted.unless(number > 0 && group < fs.groups(), "there is no such inode");
        long perBlock = fs.blockBytes() / fs.descriptorBytes();
        Bytes descriptors = Bytes.read(source, start + fs.descriptorBlock(group / perBlock) * fs.blockBytes(), fs.blockBytes());
        int at = (int) (group % perBlock) * fs.descriptorBytes();
        long table = descriptors.u32(at + 0x8) | (fs.wide() ? descriptors.u32(at + 0x28) << 32 : 0);
        long offset = (number - 1) % fs.inodesPerGroup() * fs.inodeBytes();
        Untrusted.unless(table > 0 && table < fs.blocks() - offset / fs.blockBytes(), "its inode table lies outside the file system");
        return Bytes.read(source, start + table * fs.blockBytes() + offset, fs.inodeBytes());
    }

    private void entries(Bytes directory, List<LeftOut> into) throws IOException {
        int at = 0;
        while (at + 8 <= directory.length()) {
            int length = directory.u16(at + 4);
            int name = directory.u8(at + 6);
            if (length < 8 || length % 4 != 0 || at + length > directory.length() || 8 + name > length) {
                return;
            }
            String text = new String(directory.slice(at + 8, name), StandardCharsets.UTF_8);
            if (directory.u32(at) != 0 && NAMES.contains(text)) {
                file(text, directory.u32(at), into);
            }
            at += length;
        }
    }

    private void file(String name, long number, List<LeftOut> into) throws IOException {
        try {
            Bytes inode = inode(number);
            List<long[]> pieces = (inode.u16(0) & FILE_TYPE_MASK) == REGULAR ? ExtFile.blocks(source, start, fs, inode) : List.of();
            if (pieces.isEmpty() || pieces.get(0)[1] - pieces.get(0)[0] < (PAGE + fs.blockBytes() - 1) / fs.blockBytes()) {
                return;
            }
            long first = pieces.get(0)[0] * fs.blockBytes();
            if (!Bytes.read(source, start + first, PAGE).matches(PAGE - 10, "SWAPSPACE2")) {
                return;
            }
            Extents.Builder ranges = new Extents.Builder();
            pieces.sort((a, b) -> Long.compare(a[0], b[0]));
            pieces.forEach(piece -> ranges.add(piece[0] * fs.blockBytes(), piece[1] * fs.blockBytes()));
            into.add(new LeftOut(name, LeftOut.What.SWAP, ranges.build().minus(Extents.range(first, first + PAGE))));
        } catch (Untrusted nonsense) {
            // kept as it is
        }
    }
}
