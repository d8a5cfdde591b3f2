package app.granary.core.disk;

import java.io.IOException;

/** A source made of another one: the same name, length and sectors, read in its own way. */
public abstract class SourceOver implements BlockSource {
    protected final BlockSource source;

    protected SourceOver(BlockSource source) {
        this.source = source;
    }

    @Override
    public final String name() {
        return source.name();
    }

    @Override
    public final long sizeBytes() {
        return source.sizeBytes();
    }

    @Override
    public final int sectorBytes() {
        return source.sectorBytes();
    }

    @Override
    public void close() throws IOException {
        source.close();
    }
}
