package app.granary.engine.codec;

import java.io.Closeable;
import java.io.IOException;

/** Encodes and decodes single frames. One thread at a time; holds native memory until closed. */
public interface FrameCoder extends Closeable {
    /**
     * @param chunk raw bytes, of which the first {@code length} count
     * @param frame where the frame goes, at least {@link Codec#maxFrameBytes} long
     * @return the frame's length
     */
    int encode(byte[] chunk, int length, byte[] frame) throws IOException;

    /**
     * @param frame  holds one frame in its first {@code frameLength} bytes
     * @param chunk  where the raw bytes go; at least {@code length} long
     * @param length raw bytes expected
     * @throws BadFrameException when the frame does not decode to exactly that many bytes
     */
    void decode(byte[] frame, int frameLength, byte[] chunk, int length) throws IOException;

    /** Frees native memory. */
    @Override
    default void close() {
    }
}
