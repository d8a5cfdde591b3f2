package app.granary.engine.media;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.ByteBuffer;

/** A source of which a stretch is damaged, as an image's chunk may be. */
public final class Damaged extends SourceOver {
    private final long from;
    private final long to;

    public Damaged(BlockSource sound, long from, long to) {
        super(sound);
        this.from = from;
        this.to = to;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        if (offsetBytes < to && offsetBytes + into.remaining() > from) {
            throw Fault.damaged(name(), from, "", "", "Damaged here.").asException();
        }
        source.read(offsetBytes, into);
    }
}
