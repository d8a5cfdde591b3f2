package app.granary.standins;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.TreeSet;

/** A disk some of whose sectors cannot be read. */
final class WornDisk extends SourceOver {
    private final TreeSet<Long> sectors;

    WornDisk(BlockSource source, TreeSet<Long> sectors) {
        super(source);
        this.sectors = sectors;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        Long bad = sectors.ceiling(offsetBytes / sectorBytes());
        if (bad != null && bad * sectorBytes() < offsetBytes + into.remaining()) {
            throw new IOException("Input/output error");
        }
        source.read(offsetBytes, into);
    }
}
