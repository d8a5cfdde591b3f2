package app.granary.bench;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.concurrent.atomic.AtomicLong;

/** Counts bytes read. */
final class Counting extends SourceOver {
    private final AtomicLong read;

    Counting(BlockSource source, AtomicLong read) {
        super(source);
        this.read = read;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        read.addAndGet(into.remaining());
        source.read(offsetBytes, into);
    }

    @Override
    public void close() {
    }
}
