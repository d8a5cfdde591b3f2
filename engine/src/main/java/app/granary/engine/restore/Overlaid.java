package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.SourceOver;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.List;

/** A disk with what was written over it, which lies in a file of its own: there it is read where it was written, all else of the disk. */
final class Overlaid extends SourceOver {
    private final BlockSource file;
    private final List<Written> written;
    private final long[] ends;
    private final Extents extents;

    /**
     * What was written in one piece.
     *
     * @param startBytes of the disk
     * @param endBytes   of the disk, more than the start
     * @param at         where it lies in the file; {@link #ZEROS} for zeros, which lie nowhere
     */
    record Written(long startBytes, long endBytes, long at) {
        static final long ZEROS = -1;
    }

    /**
     * @param file    closed with this; the disk is not
     * @param written in rising order, none in another
     */
    Overlaid(BlockSource disk, BlockSource file, List<Written> written) {
        super(disk);
        this.file = file;
        this.written = List.copyOf(written);
        this.ends = written.stream().mapToLong(Written::endBytes).toArray();
        Extents.Builder all = new Extents.Builder();
        written.forEach(each -> all.add(each.startBytes, each.endBytes));
        this.extents = all.build();
    }

    /** What of the disk was written over. */
    Extents written() {
        return extents;
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        long at = offsetBytes;
        int next = firstEndingAfter(at);
        while (into.hasRemaining()) {
            boolean over = next < written.size() && written.get(next).startBytes <= at;
            long end = at + into.remaining();
            if (next < written.size()) {
                end = Math.min(end, over ? written.get(next).endBytes : written.get(next).startBytes);
            }
            ByteBuffer slice = into.slice(into.position(), (int) (end - at));
            if (!over) {
                source.read(at, slice);
            } else if (written.get(next).at == Written.ZEROS) {
                slice.put(new byte[slice.remaining()]);
            } else {
                file.read(written.get(next).at + at - written.get(next).startBytes, slice);
            }
            into.position(into.position() + (int) (end - at));
            at = end;
            next += over && at == written.get(next).endBytes ? 1 : 0;
        }
    }

    private int firstEndingAfter(long offset) {
        int found = Arrays.binarySearch(ends, offset);
        return found >= 0 ? found + 1 : -found - 1;
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
