package app.granary.core.disk;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;

/**
 * A stretch of a disk, such as a partition, read as if it were a disk of its own. The disk stays its owner's to close.
 *
 * @param startBytes where it begins on the disk, 0 or more
 * @param sizeBytes  how long it is, at most up to the disk's end
 */
public record Window(BlockSource disk, long startBytes, long sizeBytes) implements BlockSource {
    public Window {
        if (startBytes < 0 || sizeBytes < 0 || sizeBytes > disk.sizeBytes() - startBytes) {
            throw new IllegalArgumentException("bytes " + startBytes + " to " + (startBytes + sizeBytes) + " of " + disk.sizeBytes());
        }
    }

    @Override
    public String name() {
        return disk.name();
    }

    @Override
    public int sectorBytes() {
        return disk.sectorBytes();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        if (offsetBytes < 0 || into.remaining() > sizeBytes - offsetBytes) {
            throw new EOFException(name() + " ends at byte " + sizeBytes + " of this part of it");
        }
        disk.read(startBytes + offsetBytes, into);
    }
}
