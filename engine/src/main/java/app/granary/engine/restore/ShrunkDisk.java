package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.SourceOver;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;

/** A disk some of whose partitions are read from files, in which they were made smaller. */
final class ShrunkDisk extends SourceOver {
    private final List<Part> parts;

    /**
     * A partition.
     *
     * @param startBytes where it begins on the disk
     * @param wasBytes   how long it is there
     * @param file       as long as it is now
     * @param used       of the file
     * @param owned      what the file is read through, closed with this
     */
    record Part(long startBytes, long wasBytes, BlockSource file, Extents used, Closeable owned) implements Closeable {
        @Override
        public void close() throws IOException {
            owned.close();
        }
    }

    /** @param parts in rising order */
    ShrunkDisk(BlockSource disk, List<Part> parts) {
        super(disk);
        this.parts = List.copyOf(parts);
    }

    /** @param used of the disk as it was */
    Extents used(Extents used) {
        Extents out = used;
        for (Part each : parts) {
            out = out.minus(Extents.range(each.startBytes, each.startBytes + each.wasBytes)).union(each.used.shift(each.startBytes));
        }
        return out;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        long at = offsetBytes;
        while (into.hasRemaining()) {
            long from = at;
            ByteBuffer slice = into.duplicate();
            BlockSource source = this.source;
            long base = 0;
            long end = at + into.remaining();
            for (Part each : parts) {
                long until = each.startBytes + each.file.sizeBytes();
                if (from >= each.startBytes && from < until) {
                    source = each.file;
                    base = each.startBytes;
                    end = Math.min(end, until);
                } else if (from < each.startBytes) {
                    end = Math.min(end, each.startBytes);
                }
            }
            slice.limit(into.position() + (int) (end - from));
            source.read(from - base, slice);
            into.position(slice.position());
            at = end;
        }
    }

    @Override
    public void close() throws IOException {
        for (Part each : parts) {
            each.close();
        }
    }
}
