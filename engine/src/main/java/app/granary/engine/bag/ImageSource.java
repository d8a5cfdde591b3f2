package app.granary.engine.bag;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Sparse;
import app.granary.engine.codec.Chunks;
import java.io.IOException;
import java.nio.ByteBuffer;

/**
 * An image read like the disk it was made of, frame by frame as needed. Keeps the last chunk decoded; of an encrypted image, whose parts
 * can only be read from their start, the last few: whoever surveys a disk comes back to its tables again and again.
 */
public final class ImageSource implements BlockSource, Sparse {
    private static final int KEPT_OF_ENCRYPTED = 16;
    private static final int KEPT_FOR_MANY = 64;
    private static final int KEPT_FOR_LOOKING = 24;
    private static final int AHEAD = 4;

    private final ImageDescription description;
    private final FrameIndex index;
    private final DecodedChunks chunks;

    /** @param bag opened with its passphrase, if it has one */
    public ImageSource(Bag bag, ImageJson.Content content) throws IOException {
        this(bag, content, content.description().encrypted() ? KEPT_OF_ENCRYPTED : 1, 0);
    }

    private ImageSource(Bag bag, ImageJson.Content content, int kept, int ahead) throws IOException {
        this.description = content.description();
        this.index = content.index();
        this.chunks = new DecodedChunks(bag, content, kept, ahead);
    }

    /**
     * One for readers that come from everywhere and stay long: 64 MiB of it are kept, and whoever reads on is read ahead of.
     *
     * @throws app.granary.core.fault.FaultException when it wants another passphrase than the bag was opened with
     */
    public static ImageSource forMany(Bag bag) throws IOException {
        return kept(bag, KEPT_FOR_MANY);
    }

    /** The same for one of several that are looked into: 24 MiB of it are kept. */
    public static ImageSource forLooking(Bag bag) throws IOException {
        return kept(bag, KEPT_FOR_LOOKING);
    }

    private static ImageSource kept(Bag bag, int chunks) throws IOException {
        ImageJson.Content content = bag.content();
        bag.requireOpens(content.description());
        return new ImageSource(bag, content, chunks, content.description().encrypted() ? 0 : AHEAD);
    }

    @Override
    public String name() {
        return description.name();
    }

    @Override
    public long sizeBytes() {
        return description.disk().sizeBytes();
    }

    @Override
    public int sectorBytes() {
        return description.sectorBytes();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        if (offsetBytes < 0 || into.remaining() > sizeBytes() - offsetBytes) {
            throw new java.io.EOFException(name() + " ends at byte " + sizeBytes());
        }
        long at = offsetBytes;
        while (into.hasRemaining()) {
            long chunk = at / Chunks.BYTES;
            byte[] raw = chunks.chunk(chunk);
            int from = (int) (at % Chunks.BYTES);
            int piece = Math.min(into.remaining(), Chunks.length(chunk, sizeBytes()) - from);
            into.put(raw, from, piece);
            at += piece;
        }
    }

    /** Only rows of many frames are surely zeros: nothing else is joined. */
    @Override
    public Stretch stretch(long atBytes) {
        int row = index.rowOf(atBytes / Chunks.BYTES);
        boolean zeros = index.count(row) > 1;
        int end = row + 1;
        while (end < index.rows() && index.count(end) > 1 == zeros) {
            end++;
        }
        long chunk = end < index.rows() ? index.firstChunk(end) : index.chunks();
        return new Stretch(zeros, Math.min(sizeBytes(), chunk * Chunks.BYTES));
    }

    @Override
    public void close() throws IOException {
        chunks.close();
    }
}
