package app.granary.engine.sample;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.OptionalLong;

/** Reads a disk for a moment, in order, to tell how fast it is: the link's usual rate says little of an old drive behind a quick plug. */
public final class ReadTest {
    private static final int BLOCK = 1 << 20;
    /** Enough to leave a drive's own cache behind, and over in a second on all but the slowest. */
    private static final long MOST_BYTES = 96L << 20;
    private static final long MOST_NANOS = 1_500_000_000L;
    /** Less tells nothing: the first read waits for the drive to wake and seek. */
    private static final long LEAST_BYTES = 16L << 20;

    private ReadTest() {
    }

    /**
     * @param within what may be read; the longest stretch of it is
     * @return bytes per second; empty when there is too little to read in one piece
     */
    public static OptionalLong rate(BlockSource source, Extents within) throws IOException {
        int longest = 0;
        for (int i = 1; i < within.count(); i++) {
            longest = within.end(i) - within.start(i) > within.end(longest) - within.start(longest) ? i : longest;
        }
        if (within.count() == 0 || within.end(longest) - within.start(longest) < LEAST_BYTES) {
            return OptionalLong.empty();
        }
        ByteBuffer block = ByteBuffer.allocateDirect(BLOCK);
        long at = within.start(longest);
        long end = Math.min(within.end(longest), at + MOST_BYTES);
        source.read(at, block.clear());
        at += BLOCK;
        long first = at;
        long began = System.nanoTime();
        while (at + BLOCK <= end && (at - first < LEAST_BYTES - BLOCK || System.nanoTime() - began < MOST_NANOS)) {
            source.read(at, block.clear());
            at += BLOCK;
        }
        return OptionalLong.of(Math.max(1, (long) ((at - first) * 1e9 / Math.max(1, System.nanoTime() - began))));
    }
}
