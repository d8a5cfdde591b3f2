package app.granary.engine.bag;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.engine.codec.BadFrameException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.FrameCoder;
import java.io.IOException;
import java.nio.ByteBuffer;

/** An image read like the disk it was made of, frame by frame as needed. Keeps the last chunk decoded. */
public final class ImageSource implements BlockSource {
    private final ImageDescription description;
    private final FrameIndex index;
    private final long[] rowOffsets;
    private final FrameCoder coder;
    private final byte[] raw = new byte[Chunks.BYTES];
    private final byte[] stored;
    private final StoredBytes bytes;
    private long held = -1;

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
            hold(chunk);
            int from = (int) (at % Chunks.BYTES);
            int piece = Math.min(into.remaining(), Chunks.length(chunk, sizeBytes()) - from);
            into.put(raw, from, piece);
            at += piece;
        }
    }

    private void hold(long chunk) throws IOException {
        if (held == chunk) {
            return;
        }
        int row = index.rowOf(chunk);
        int length = index.storedBytes(row);
        readStored(rowOffsets[row] + (chunk - index.firstChunk(row)) * length, length);
        held = -1;
        int rawBytes = Chunks.length(chunk, sizeBytes());
        try {
            coder.decode(stored, length, raw, rawBytes);
        } catch (BadFrameException broken) {
            throw damaged(chunk);
        }
        if (Chunks.crc(raw, rawBytes) != index.crc(row)) {
            throw damaged(chunk);
        }
        held = chunk;
    }

    private IOException damaged(long chunk) {
        return Fault.of(Fault.Kind.DAMAGED, name(), "The image " + name() + " is damaged at byte " + chunk * Chunks.BYTES + " of the disk. Check it.").asException();
    }

    private void readStored(long offset, int length) throws IOException {
        if (!bytes.read(offset, stored, length)) {
            throw Fault.of(Fault.Kind.DAMAGED, name(), "Parts of the image " + name() + " are missing or cut short. Check it.").asException();
        }
    }

    @Override
    public void close() throws IOException {
        coder.close();
        bytes.close();
    }
}
