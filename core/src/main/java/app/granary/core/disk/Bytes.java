package app.granary.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.Charset;
import java.util.HexFormat;

/** A piece of a disk held in memory, read as unsigned little-endian fields by offset within the piece. */
public final class Bytes {
    private final ByteBuffer buffer;

    private Bytes(ByteBuffer buffer) {
        this.buffer = buffer.order(ByteOrder.LITTLE_ENDIAN);
    }

    /** Reads {@code length} bytes; the caller has bounded the length, it never comes from the disk unchecked. */
    public static Bytes read(BlockSource source, long offsetBytes, int length) throws IOException {
        ByteBuffer buffer = ByteBuffer.allocate(length);
        source.read(offsetBytes, buffer);
        return new Bytes(buffer.flip());
    }

    public static Bytes of(byte[] content) {
        return new Bytes(ByteBuffer.wrap(content));
    }

    public int length() {
        return buffer.limit();
    }

    public int u8(int offset) {
        return buffer.get(offset) & 0xFF;
    }

    public int u16(int offset) {
        return buffer.getShort(offset) & 0xFFFF;
    }

    public long u32(int offset) {
        return buffer.getInt(offset) & 0xFFFF_FFFFL;
    }

    /** Eight bytes; a value above 2^63 - 1 comes out negative and must be refused by the caller's range check. */
    public long i64(int offset) {
        return buffer.getLong(offset);
    }

    /** Four bytes, most significant first, as the superblocks of some file systems are written. */
    public long u32be(int offset) {
        return Integer.reverseBytes(buffer.getInt(offset)) & 0xFFFF_FFFFL;
    }

    /** Eight bytes, most significant first; see {@link #i64} for values above 2^63 - 1. */
    public long i64be(int offset) {
        return Long.reverseBytes(buffer.getLong(offset));
    }

    public boolean matches(int offset, String ascii) {
        if (offset + ascii.length() > length()) {
            return false;
        }
        for (int i = 0; i < ascii.length(); i++) {
            if (u8(offset + i) != ascii.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    /** Text up to the first NUL, in the given encoding; trailing spaces are dropped. */
    public String text(int offset, int bytes, Charset charset) {
        byte[] raw = slice(offset, bytes);
        String text = new String(raw, charset);
        int end = text.indexOf('\0');
        return (end < 0 ? text : text.substring(0, end)).stripTrailing();
    }

    public byte[] slice(int offset, int bytes) {
        byte[] out = new byte[bytes];
        buffer.get(offset, out);
        return out;
    }

    /** A part of it, without copying. */
    public Bytes part(int offset, int bytes) {
        return new Bytes(buffer.slice(offset, bytes));
    }

    /** A GUID as GPT stores it: the first three fields little-endian, the rest as written (UEFI 2.x, appendix A). */
    public String guid(int offset) {
        HexFormat hex = HexFormat.of().withUpperCase(); // not String.format: it is the larger part of reading a table's 128 entries
        StringBuilder out = new StringBuilder(36).append(hex.toHexDigits((int) u32(offset))).append('-')
            .append(hex.toHexDigits((short) u16(offset + 4))).append('-')
            .append(hex.toHexDigits((short) u16(offset + 6))).append('-');
        for (int i = 8; i < 16; i++) {
            out.append(i == 10 ? "-" : "").append(hex.toHexDigits((byte) u8(offset + i)));
        }
        return out.toString();
    }
}
