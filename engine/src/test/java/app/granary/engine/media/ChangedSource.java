package app.granary.engine.media;

import app.granary.core.disk.BlockSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Map;
import java.util.TreeMap;

/** A disk with single bytes changed, without touching the file. */
final class ChangedSource implements BlockSource {
    private final BlockSource source;
    private final Map<Long, Byte> changes = new TreeMap<>();

    private long readBytes;

    ChangedSource(BlockSource source) {
        this.source = source;
    }

    void change(long offsetBytes, byte value) {
        changes.put(offsetBytes, value);
    }

    long readBytes() {
        return readBytes;
    }

    @Override
    public String name() {
        return source.name();
    }

    @Override
    public long sizeBytes() {
        return source.sizeBytes();
    }

    @Override
    public int sectorBytes() {
        return source.sectorBytes();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        int from = into.position();
        int length = into.remaining();
        readBytes += length;
        source.read(offsetBytes, into);
        changes.forEach((at, value) -> {
            if (at >= offsetBytes && at < offsetBytes + length) {
                into.put(from + (int) (at - offsetBytes), value);
            }
        });
    }
}
