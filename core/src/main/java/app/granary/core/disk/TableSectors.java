package app.granary.core.disk;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * A stretch of sectors that holds a part of a table, to be written to a disk.
 *
 * @param offsetBytes where on the disk
 * @param content     whole sectors
 */
public record TableSectors(long offsetBytes, byte[] content) {
    static ByteBuffer buffer(int bytes) {
        return ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof TableSectors that && offsetBytes == that.offsetBytes && Arrays.equals(content, that.content);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(content);
    }
}
