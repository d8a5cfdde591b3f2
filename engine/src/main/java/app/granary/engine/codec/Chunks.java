package app.granary.engine.codec;

import java.nio.ByteBuffer;
import java.util.zip.CRC32;
import java.util.zip.CRC32C;

/** The chunk: the stretch of disk that becomes one frame. */
public final class Chunks {
    /** 1 MiB: large enough for the codec, small enough that damage costs little and a sample of them is cheap. */
    public static final int BYTES = 1 << 20;

    private static final ByteBuffer ZEROS = ByteBuffer.allocate(BYTES).asReadOnlyBuffer();

    private Chunks() {
    }

    /** How many chunks a disk has; the last may be shorter. */
    public static long count(long diskBytes) {
        return (diskBytes + BYTES - 1) / BYTES;
    }

    /** Length of one chunk of the disk. */
    public static int length(long chunk, long diskBytes) {
        return (int) Math.min(BYTES, diskBytes - chunk * BYTES);
    }

    public static boolean isZero(byte[] content, int length) {
        return ByteBuffer.wrap(content, 0, length).mismatch(ZEROS.duplicate().limit(length)) < 0;
    }

    /**
     * CRC-32 (ISO-HDLC) of raw bytes. File systems that end their metadata in a CRC-32C of it give the same CRC-32C over both whatever they
     * change (the checksum of a message and its own checksum is constant); what must tell one state of a disk from another is compared by
     * this as well.
     */
    public static int stateCrc(byte[] content, int length) {
        CRC32 crc = new CRC32();
        crc.update(content, 0, length);
        return (int) crc.getValue();
    }

    /** CRC-32C of raw bytes, as the index keeps it. */
    public static int crc(byte[] content, int length) {
        CRC32C crc = new CRC32C();
        crc.update(content, 0, length);
        return (int) crc.getValue();
    }
}
