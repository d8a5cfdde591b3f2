package app.granary.server.served;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import java.io.IOException;
import java.nio.ByteBuffer;

/** A disk that is being read, with what is to be done once it is not any more. */
final class ReadDisk extends SourceOver {
    private final Runnable after;

    ReadDisk(BlockSource disk, Runnable after) {
        super(disk);
        this.after = after;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        source.read(offsetBytes, into);
    }

    @Override
    public void close() throws IOException {
        try {
            super.close();
        } finally {
            after.run();
        }
    }
}
