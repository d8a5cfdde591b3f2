package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Sparse;
import java.io.EOFException;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;

/** An image as the disk it was made of, read from whichever machine has its drive. */
public final class InsideDisk implements BlockSource, Sparse {
    private final Insides insides;
    private final ImageAt image;
    private final Insides.Shape shape;

    /** @throws app.granary.core.fault.FaultException when the image cannot be opened */
    public InsideDisk(Insides insides, ImageAt image) throws IOException {
        this.insides = insides;
        this.image = image;
        this.shape = insides.shape(image);
    }

    /** Whether its table is one that UEFI starts from. */
    public boolean uefi() {
        return shape.scheme().equals("gpt");
    }

    @Override
    public String name() {
        return image.name();
    }

    @Override
    public long sizeBytes() {
        return shape.sizeBytes();
    }

    @Override
    public int sectorBytes() {
        return shape.sectorBytes();
    }

    @Override
    public void read(long offsetBytes, ByteBuffer into) throws IOException {
        if (offsetBytes < 0 || into.remaining() > sizeBytes() - offsetBytes) {
            throw new EOFException(name() + " ends at byte " + sizeBytes());
        }
        for (long at = offsetBytes; into.hasRemaining();) {
            byte[] piece = insides.read(image, at, Math.min(into.remaining(), Insides.MOST_BYTES));
            into.put(piece);
            at += piece.length;
        }
    }

    @Override
    public Stretch stretch(long atBytes) {
        try {
            return insides.stretch(image, atBytes);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
