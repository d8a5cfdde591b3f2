package app.granary.engine.bag;

import java.util.Arrays;
import java.util.OptionalInt;

/**
 * Of each chunk with content the checksum that tells its states apart (see {@link app.granary.engine.codec.Chunks#stateCrc}), in order of
 * the disk. Chunks of zeros
 * have none: they have one state. Twelve bytes a chunk.
 */
final class StateSums {
    private long[] chunks = new long[64];
    private int[] sums = new int[64];
    private int count;

    /** @param chunk behind those added before */
    void add(long chunk, int stateCrc) {
        if (count == chunks.length) {
            chunks = Arrays.copyOf(chunks, count * 2);
            sums = Arrays.copyOf(sums, count * 2);
        }
        chunks[count] = chunk;
        sums[count++] = stateCrc;
    }

    /** Empty for a chunk of zeros. */
    OptionalInt of(long chunk) {
        int at = Arrays.binarySearch(chunks, 0, count, chunk);
        return at < 0 ? OptionalInt.empty() : OptionalInt.of(sums[at]);
    }
}
