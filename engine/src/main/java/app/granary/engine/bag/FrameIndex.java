package app.granary.engine.bag;

import app.granary.engine.codec.Chunks;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The frames of an image in the order of the disk. Equal frames that follow each other, as those of free space do, are one row with a
 * count, so that an empty terabyte costs one row.
 */
public final class FrameIndex {
    private long[] firstChunk = new long[64];
    private int[] storedBytes = new int[64];
    private int[] crc = new int[64];
    private int rows;
    private long chunks;
    private long totalStored;

    /**
     * Adds {@code count} frames of the same bytes.
     *
     * @param zeros whether they are the frame of a whole chunk of zeros; only those are joined with the row before
     */
    public void add(long count, int storedPerFrame, int crcOfRaw, boolean zeros) {
        if (count <= 0 || storedPerFrame <= 0) {
            throw new IllegalArgumentException(count + " frames of " + storedPerFrame + " bytes");
        }
        boolean joins = zeros && rows > 0 && crc[rows - 1] == crcOfRaw && storedBytes[rows - 1] == storedPerFrame;
        if (!joins) {
            if (rows == firstChunk.length) {
                firstChunk = Arrays.copyOf(firstChunk, rows * 2);
                storedBytes = Arrays.copyOf(storedBytes, rows * 2);
                crc = Arrays.copyOf(crc, rows * 2);
            }
            firstChunk[rows] = chunks;
            storedBytes[rows] = storedPerFrame;
            crc[rows++] = crcOfRaw;
        }
        chunks += count;
        totalStored += count * storedPerFrame;
    }

    public int rows() {
        return rows;
    }

    public long chunks() {
        return chunks;
    }

    /** Stored bytes of all frames together. */
    public long totalStoredBytes() {
        return totalStored;
    }

    public long firstChunk(int row) {
        return firstChunk[row];
    }

    /** The row a chunk lies in; the chunk must be below {@link #chunks()}. */
    public int rowOf(long chunk) {
        int at = Arrays.binarySearch(firstChunk, 0, rows, chunk);
        return at >= 0 ? at : -at - 2;
    }

    /** How many equal frames the row stands for. */
    public long count(int row) {
        return (row + 1 < rows ? firstChunk[row + 1] : chunks) - firstChunk[row];
    }

    public int storedBytes(int row) {
        return storedBytes[row];
    }

    public int crc(int row) {
        return crc[row];
    }

    /**
     * Stored bytes of the chunks within a stretch of the disk, slice by slice: how densely it is filled, and where not at all.
     *
     * @param slices at most so many, 1 or more; fewer where the stretch has fewer chunks
     * @return per slice in thousandths of the length of its chunks; 0 for free space, about 1000 for what does not compress
     */
    public List<Integer> density(long startBytes, long sizeBytes, int slices) {
        int parts = (int) Math.max(1, Math.min(slices, sizeBytes / Chunks.BYTES));
        List<Integer> out = new ArrayList<>(parts);
        for (int i = 0; i < parts; i++) {
            long first = (startBytes + sizeBytes / parts * i) / Chunks.BYTES;
            long end = Math.min(chunks,
                Math.max(first + 1, (startBytes + (i + 1 == parts ? sizeBytes : sizeBytes / parts * (i + 1))) / Chunks.BYTES));
            out.add(first >= end ? 0 : (int) (storedWithin(first, end) * 1000 / ((end - first) * Chunks.BYTES)));
        }
        return out;
    }

    private long storedWithin(long first, long end) {
        long sum = 0;
        for (int row = rowOf(first); row < rows && firstChunk[row] < end; row++) {
            sum += (Math.min(end, firstChunk[row] + count(row)) - Math.max(first, firstChunk[row])) * storedBytes[row];
        }
        return sum;
    }

    /** Raw bytes of one frame of the row; only the disk's last chunk is shorter than the rest. */
    public int rawBytes(int row, long diskBytes) {
        return Chunks.length(firstChunk[row] + count(row) - 1, diskBytes);
    }
}
