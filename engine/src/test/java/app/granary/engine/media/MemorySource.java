package app.granary.engine.media;

import app.granary.core.disk.BlockSource;
import java.nio.ByteBuffer;

/** Bytes that are read like a disk with sectors of 512. */
public record MemorySource(byte[] bytes) implements BlockSource {
    @Override
    public String name() {
        return "memory";
    }

    @Override
    public long sizeBytes() {
        return bytes.length;
    }

    @Override
    public int sectorBytes() {
        return 512;
    }

    @Override
    public void read(long offset, ByteBuffer into) {
        into.put(bytes, (int) offset, into.remaining());
    }
}
