package app.granary.engine.bag;

import app.granary.engine.codec.Chunks;
import java.util.Arrays;
import java.util.List;

/**
 * Of each chunk with content the checksum that tells its states apart (see {@link Chunks#stateCrc}), in order of the disk. Chunks of zeros
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

    /** Of the frames a log tells of. */
    static StateSums of(List<Unfinished.Row> rows) {
        StateSums out = new StateSums();
        long chunk = 0;
        for (Unfinished.Row row : rows) {
            if (!row.zeros()) {
                out.add(chunk, row.stateCrc());
            }
            chunk += row.count();
        }
        return out;
    }

    /**
     * Whether a chunk was made of these bytes.
     *
     * @param index of the same frames
     * @param chunk below the index's count of chunks
     */
    boolean isOf(FrameIndex index, long chunk, byte[] raw, int length) {
        int at = Arrays.binarySearch(chunks, 0, count, chunk);
        return Chunks.crc(raw, length) == index.crc(index.rowOf(chunk)) && (at < 0 || sums[at] == Chunks.stateCrc(raw, length));
    }
}
