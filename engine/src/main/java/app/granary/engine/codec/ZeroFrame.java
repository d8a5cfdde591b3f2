package app.granary.engine.codec;

import java.io.IOException;
import java.util.Arrays;

/**
 * The frame of a chunk of zeros, made once: what is free on the disk is written and compared as these bytes, never compressed again.
 *
 * @param length raw bytes it stands for
 * @param frame  its stored bytes
 * @param crc    CRC-32C of the zeros
 */
public record ZeroFrame(int length, byte[] frame, int crc) {

    public static ZeroFrame of(Codec codec, int level, int length) throws IOException {
        byte[] zeros = new byte[length];
        byte[] frame = new byte[codec.maxFrameBytes(length)];
        try (FrameCoder coder = codec.coder(level)) {
            int stored = coder.encode(zeros, length, frame);
            return new ZeroFrame(length, Arrays.copyOf(frame, stored), Chunks.crc(zeros, length));
        }
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof ZeroFrame that && length == that.length && crc == that.crc && Arrays.equals(frame, that.frame);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(frame);
    }
}
