package app.granary.core.disk;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;

/** A disk in memory. */
record Memory(byte[] content, int sectorBytes) implements BlockSource {
    @Override
    public String name() {
        return "disk";
    }

    @Override
    public long sizeBytes() {
        return content.length;
    }

    @Override
    public void read(long offset, ByteBuffer into) throws IOException {
        if (offset < 0 || into.remaining() > content.length - offset) {
            throw new EOFException();
        }
        into.put(content, (int) offset, into.remaining());
    }
}
