package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** A small disk in memory, little-endian, written field by field. */
final class MemoryDisk implements BlockSource {
    private final ByteBuffer content;

    MemoryDisk(int bytes) {
        content = ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
    }

    MemoryDisk u8(int at, int value) {
        content.put(at, (byte) value);
        return this;
    }

    MemoryDisk u16(int at, int value) {
        content.putShort(at, (short) value);
        return this;
    }

    MemoryDisk u32(int at, long value) {
        content.putInt(at, (int) value);
        return this;
    }

    MemoryDisk text(int at, String ascii) {
        content.put(at, ascii.getBytes(StandardCharsets.ISO_8859_1));
        return this;
    }

    @Override
    public String name() {
        return "disk";
    }

    @Override
    public long sizeBytes() {
        return content.capacity();
    }

    @Override
    public int sectorBytes() {
        return 512;
    }

    @Override
    public void read(long offset, ByteBuffer into) throws IOException {
        if (offset < 0 || into.remaining() > content.capacity() - offset) {
            throw new EOFException("past the end");
        }
        into.put(content.array(), (int) offset, into.remaining());
    }
}
