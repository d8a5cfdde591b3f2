package app.granary.core.disk;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Anything that can be read like a disk. Safe for use by several threads at once. */
public interface BlockSource extends Closeable {
    /** How the person knows it: a path or a device's name. Used in messages. */
    String name();

    /** Length in bytes, 0 or more. */
    long sizeBytes();

    /** Logical sector in bytes: 512 or 4096. */
    int sectorBytes();

    /**
     * Fills the rest of {@code into} from {@code offsetBytes} on.
     *
     * @throws IOException when fewer bytes are there than asked for, or the device fails
     */
    void read(long offsetBytes, ByteBuffer into) throws IOException;

    @Override
    default void close() throws IOException {
    }
}
