package app.granary.engine.source;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Anything a disk can be written back to. Writes by several threads at once are safe as long as they do not overlap. */
public interface BlockTarget extends Closeable {
    String name();

    /** Length in bytes; for a file, the length it was made with. */
    long sizeBytes();

    /** Whether bytes that were never written read as zeros, so that zeros need not be written. */
    boolean startsAsZeros();

    /**
     * Takes the content before it returns, which may be before it is on the device: a failure may be told by a later write, flush or finish
     * instead.
     */
    void write(long offsetBytes, ByteBuffer content) throws IOException;

    /** Forces what was written so far to the device, so that it is there after a fall of power. */
    void flush() throws IOException;

    /** Forces everything to the device and, for a file, gives it its final name. */
    void finish() throws IOException;

    /** Without {@link #finish()} first, nothing is left under a final name. */
    @Override
    void close() throws IOException;
}
