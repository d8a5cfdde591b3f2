package app.granary.engine.bag;

import app.granary.engine.codec.Chunks;
import java.util.Arrays;

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

    /** Raw bytes of one frame of the row; only the disk's last chunk is shorter than the rest. */
    public int rawBytes(int row, long diskBytes) {
        return Chunks.length(firstChunk[row] + count(row) - 1, diskBytes);
    }
}
