package app.granary.engine.capture;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.image.BadStretch;
import app.granary.engine.codec.Chunks;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Reads what of a chunk is to be kept; the rest of the chunk is zeros. */
public final class ChunkReader {
    private final CarefulSource source;
    private final Extents toRead;

    public ChunkReader(BlockSource source, Extents toRead) {
        this.source = source instanceof CarefulSource careful ? careful : new CarefulSource(source);
        this.toRead = toRead;
    }

    /** The first chunk at or after {@code chunk} that holds anything to read; the disk's chunk count when none does. */
    public long nextWithContent(long chunk) {
        int at = toRead.firstEndingAfter(chunk * Chunks.BYTES);
        return at == toRead.count() ? Chunks.count(source.sizeBytes()) : Math.max(chunk, toRead.start(at) / Chunks.BYTES);
    }

    /** How many bytes of a chunk are to be read. */
    public long contentBytes(long chunk) {
        return toRead.bytesWithin(chunk * Chunks.BYTES, (chunk + 1) * Chunks.BYTES);
    }

    /**
     * Fills {@code into} with the chunk: one read from its first wanted byte to its last, then the unwanted bytes between are zeroed, which
     * is quicker than a read for each of many small pieces.
     *
     * @param bad gets wanted sectors that could not be read; they are zeros in {@code into}
     * @return the chunk's length
     */
    public int read(long chunk, byte[] into, List<BadStretch> bad) throws IOException {
        long start = chunk * Chunks.BYTES;
        int length = Chunks.length(chunk, source.sizeBytes());
        long end = start + length;
        int first = toRead.firstEndingAfter(start);
        if (first == toRead.count() || toRead.start(first) >= end) {
            Arrays.fill(into, 0, length, (byte) 0);
            return length;
        }
        int last = first;
        while (last + 1 < toRead.count() && toRead.start(last + 1) < end) {
            last++;
        }
        int from = (int) (Math.max(start, toRead.start(first)) - start);
        int to = (int) (Math.min(end, toRead.end(last)) - start);
        List<BadStretch> unread = new ArrayList<>();
        source.read(start + from, ByteBuffer.wrap(into, from, to - from), unread);
        unread.stream().filter(each -> toRead.bytesWithin(each.startBytes(), each.endBytes()) > 0).forEach(bad::add);
        Arrays.fill(into, 0, from, (byte) 0);
        for (int i = first; i < last; i++) {
            Arrays.fill(into, (int) (toRead.end(i) - start), (int) (toRead.start(i + 1) - start), (byte) 0);
        }
        Arrays.fill(into, to, length, (byte) 0);
        return length;
    }
}
