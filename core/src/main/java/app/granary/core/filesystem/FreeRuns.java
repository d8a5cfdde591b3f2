package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import java.util.Arrays;

/**
 * Collects what is free, in rising order, in bounded memory. A file system in shreds has more free runs than are worth knowing one by one:
 * past {@link #MOST} the shortest are no longer told apart from used blocks and so are read, which is safe. The count of free blocks stays
 * exact.
 */
final class FreeRuns {
    /** 8 MiB of ranges; a disk of 2 TB with half a million free runs has one every 4 MB. */
    static final int MOST = 1 << 19;

    private final long baseBytes;
    private final long blockBytes;
    private long[] starts = new long[64];
    private long[] ends = new long[64];
    private int count;
    private long leastBlocks = 1;
    private long freeBlocks;

    /**
     * @param baseBytes  where block 0 begins, from the partition's start
     * @param blockBytes length of a block, or cluster
     */
    FreeRuns(long baseBytes, long blockBytes) {
        this.baseBytes = baseBytes;
        this.blockBytes = blockBytes;
    }

    /** Blocks {@code [first, end)} are free; calls come in rising order. */
    void add(long first, long end) {
        freeBlocks += end - first;
        if (count > 0 && ends[count - 1] == first) {
            ends[count - 1] = end;
            return;
        }
        if (count > 0 && ends[count - 1] - starts[count - 1] < leastBlocks) {
            count--; // the run before is complete, and too short to keep
        }
        if (count == MOST) {
            coarsen();
        }
        if (count == starts.length) {
            starts = Arrays.copyOf(starts, count * 2);
            ends = Arrays.copyOf(ends, count * 2);
        }
        starts[count] = first;
        ends[count++] = end;
    }

    private void coarsen() {
        while (count > MOST / 2) {
            leastBlocks *= 2;
            int kept = 0;
            for (int i = 0; i < count; i++) {
                if (ends[i] - starts[i] >= leastBlocks) {
                    starts[kept] = starts[i];
                    ends[kept++] = ends[i];
                }
            }
            count = kept;
        }
    }

    /**
     * Takes a piece of an allocation bitmap, a set bit for a used block, lowest bit first.
     *
     * @param bits       the bitmap's bytes
     * @param bitCount   how many of its bits count
     * @param firstBlock block of the first bit
     */
    void bitmap(byte[] bits, int bitCount, long firstBlock) {
        int at = 0;
        while (at < bitCount) {
            int free = nextWhere(bits, bitCount, at, 0);
            at = nextWhere(bits, bitCount, free, 1);
            if (at > free) {
                add(firstBlock + free, firstBlock + at);
            }
        }
    }

    /** First bit from {@code at} on that has the given value, or {@code bitCount}. Steps over whole bytes that hold none. */
    private static int nextWhere(byte[] bits, int bitCount, int at, int value) {
        int none = value == 0 ? 0xFF : 0;
        int i = at;
        while (i < bitCount) {
            if ((i & 7) == 0) {
                while (i < bitCount && (bits[i >> 3] & 0xFF) == none) {
                    i += 8;
                }
                if (i >= bitCount) {
                    return bitCount;
                }
            }
            if ((bits[i >> 3] >> (i & 7) & 1) == value) {
                return i;
            }
            i++;
        }
        return bitCount;
    }

    /** Exact, whatever was merged. */
    long freeBlocks() {
        return freeBlocks;
    }

    /** The free byte ranges of the partition. */
    Extents build() {
        Extents.Builder out = new Extents.Builder();
        for (int i = 0; i < count; i++) {
            if (ends[i] - starts[i] >= leastBlocks) {
                out.add(baseBytes + starts[i] * blockBytes, baseBytes + ends[i] * blockBytes);
            }
        }
        return out.build();
    }
}
