package app.granary.engine.codec;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * Zstandard frames that compress nothing, and take next to no processor time: blocks as they are, and those of nothing but zeros as one
 * repeated byte. RFC 8878, section 3.1.1: magic number, a descriptor for a single segment with a content size of four bytes, that size;
 * each block a header of three bytes (bit 0 the last one, bits 1 and 2 its type, then its size), at most 128 KiB long.
 */
final class StoredCoder implements FrameCoder {
    private static final int MAGIC = 0xFD2FB528;
    private static final byte SINGLE_SEGMENT_SIZE_OF_FOUR = (byte) 0xA0;
    private static final int BLOCK = 128 << 10;
    private static final int RAW = 0;
    private static final int REPEATED = 1;
    private static final byte[] ZEROS = new byte[BLOCK];

    private final ZstdCoder decoder = new ZstdCoder(Codec.ZSTD.usualLevel());

    @Override
    public int encode(byte[] chunk, int length, byte[] frame) {
        ByteBuffer out = ByteBuffer.wrap(frame).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(MAGIC).put(SINGLE_SEGMENT_SIZE_OF_FOUR).putInt(length);
        int at = 0;
        do {
            int size = Math.min(BLOCK, length - at);
            boolean zeros = size > 0 && Arrays.equals(chunk, at, at + size, ZEROS, 0, size);
            int header = (at + size == length ? 1 : 0) | (zeros ? REPEATED : RAW) << 1 | size << 3;
            out.put((byte) header).put((byte) (header >> 8)).put((byte) (header >> 16));
            if (zeros) {
                out.put((byte) 0);
            } else {
                out.put(chunk, at, size);
            }
            at += size;
        } while (at < length);
        return out.position();
    }

    @Override
    public void decode(byte[] frame, int frameLength, byte[] chunk, int length) throws BadFrameException {
        decoder.decode(frame, frameLength, chunk, length);
    }

    @Override
    public void close() {
        decoder.close();
    }
}
