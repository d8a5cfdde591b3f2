package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Swap files of an ext file system, found by name in its root directory. Only a file that carries the mark of swap space is left out, all
 * but its first page.
 */
final class ExtLeftOut {
    private static final int PAGE = 4096;
    /** Names in use (common practice, no source). */
    private static final Set<String> NAMES = Set.of("swapfile", "swap.img", "swap");
    /** A root directory is not searched further than this many blocks. */
    private static final int MOST_BLOCKS = 1024;

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;
    private final ExtInodes inodes;

    private ExtLeftOut(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
        this.inodes = new ExtInodes(source, start, fs);
    }

    static List<LeftOut> find(BlockSource source, long start, ExtSuperblock fs) throws IOException {
        return new ExtLeftOut(source, start, fs).find();
    }

    private List<LeftOut> find() throws IOException {
        List<LeftOut> out = new ArrayList<>();
        try {
            int looked = 0;
            for (long[] piece : ExtFile.blocks(source, start, fs, inodes.read(ExtInodes.ROOT))) {
                for (long block = piece[0]; block < piece[1] && looked++ < MOST_BLOCKS; block++) {
                    entries(Bytes.read(source, start + block * fs.blockBytes(), fs.blockBytes()), out);
                }
            }
        } catch (Untrusted nonsense) {
            return List.of();
        }
        return out;
    }

    private void entries(Bytes directory, List<LeftOut> into) throws IOException {
        for (ExtInodes.Entry entry : ExtInodes.entries(directory)) {
            if (NAMES.contains(entry.name())) {
                file(entry.name(), entry.inode(), into);
            }
        }
    }

    private void file(String name, long number, List<LeftOut> into) throws IOException {
        try {
            Bytes inode = inodes.read(number);
            List<long[]> pieces = ExtInodes.isFile(inode) ? ExtFile.blocks(source, start, fs, inode) : List.of();
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
