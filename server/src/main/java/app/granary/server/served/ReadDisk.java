package app.granary.server.served;

import app.granary.core.disk.BlockSource;
import java.io.IOException;
import java.nio.ByteBuffer;

/** A disk that is being read, with what is to be done once it is not any more. */
record ReadDisk(BlockSource disk, Runnable after) implements BlockSource {
    @Override
    public String name() {
        return disk.name();
    }

    @Override
    public long sizeBytes() {
        return disk.sizeBytes();
    }

    @Override
    public int sectorBytes() {
        return disk.sectorBytes();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        disk.read(offsetBytes, into);
    }

    @Override
    public void close() throws IOException {
        try {
            disk.close();
        } finally {
            after.run();
        }
    }
}
