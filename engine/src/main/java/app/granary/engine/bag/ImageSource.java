package app.granary.engine.bag;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.engine.codec.BadFrameException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.FrameCoder;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * An image read like the disk it was made of, frame by frame as needed. Keeps the last chunk decoded; of an encrypted image, whose parts
 * can only be read from their start, the last few: whoever surveys a disk comes back to its tables again and again.
 */
public final class ImageSource implements BlockSource {
    private static final int KEPT_OF_ENCRYPTED = 16;

    private final ImageDescription description;
    private final FrameIndex index;
    private final long[] rowOffsets;
    private final FrameCoder coder;
    private final byte[] stored;
    private final StoredBytes bytes;
    /** Decoded chunks by number, the one used longest ago first. */
    private final Map<Long, byte[]> kept = new LinkedHashMap<>(32, 0.75f, true);
    private final int keptAtMost;

    /** @param bag opened with its passphrase, if it has one */
    public ImageSource(Bag bag, ImageJson.Content content) throws IOException {
        this.description = content.description();
        this.index = content.index();
        this.rowOffsets = new long[index.rows()];
        for (int row = 1; row < rowOffsets.length; row++) {
            rowOffsets[row] = rowOffsets[row - 1] + index.count(row - 1) * index.storedBytes(row - 1);
        }
        this.coder = description.codec().coder(description.level());
        this.bytes = new StoredBytes(bag.folder().resolve("data"), description.parts(), bag.passphraseFor(description));
        this.keptAtMost = description.encrypted() ? KEPT_OF_ENCRYPTED : 1;
        this.stored = new byte[description.codec().maxFrameBytes(Chunks.BYTES)];
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
    public synchronized void read(long offsetBytes, ByteBuffer into) throws IOException {
        if (offsetBytes < 0 || into.remaining() > sizeBytes() - offsetBytes) {
            throw new java.io.EOFException(name() + " ends at byte " + sizeBytes());
        }
        long at = offsetBytes;
        while (into.hasRemaining()) {
            long chunk = at / Chunks.BYTES;
            byte[] raw = raw(chunk);
            int from = (int) (at % Chunks.BYTES);
            int piece = Math.min(into.remaining(), Chunks.length(chunk, sizeBytes()) - from);
            into.put(raw, from, piece);
            at += piece;
        }
    }

    private byte[] raw(long chunk) throws IOException {
        byte[] there = kept.get(chunk);
        if (there != null) {
            return there;
        }
        int row = index.rowOf(chunk);
        int length = index.storedBytes(row);
        readStored(rowOffsets[row] + (chunk - index.firstChunk(row)) * length, length);
        byte[] raw = room();
        int rawBytes = Chunks.length(chunk, sizeBytes());
        try {
            coder.decode(stored, length, raw, rawBytes);
        } catch (BadFrameException broken) {
            throw damaged(chunk);
        }
        if (Chunks.crc(raw, rawBytes) != index.crc(row)) {
            throw damaged(chunk);
        }
        kept.put(chunk, raw);
        return raw;
    }

    /** What the chunk used longest ago lay in, once there are as many as are kept. */
    private byte[] room() {
        if (kept.size() < keptAtMost) {
            return new byte[Chunks.BYTES];
        }
        long oldest = kept.keySet().iterator().next();
        return kept.remove(oldest);
    }

    private IOException damaged(long chunk) {
        return Fault.of(Fault.Kind.DAMAGED, name(),
            "The image " + name() + " is damaged at byte " + chunk * Chunks.BYTES + " of the disk. Check it.").asException();
    }

    private void readStored(long offset, int length) throws IOException {
        if (!bytes.read(offset, stored, length)) {
            throw Fault.of(Fault.Kind.DAMAGED, name(), "Parts of the image " + name() + " are missing or cut short. Check it.")
                .asException();
        }
    }

    @Override
    public void close() throws IOException {
        coder.close();
        bytes.close();
    }
}
