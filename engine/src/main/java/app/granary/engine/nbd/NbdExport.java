package app.granary.engine.nbd;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Sparse;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.concurrent.Semaphore;

/**
 * What is served.
 *
 * @param name readers ask for it by that, or by none
 * @param room bytes that answers of all readers may take in memory at once; as many as they are are taken of it
 */
record NbdExport(BlockSource source, String name, Semaphore room) {
    private static final int ROOM = 2 * NbdSession.MOST;

    NbdExport(BlockSource source, String name) {
        this(source, name, new Semaphore(ROOM));
    }

    boolean goesBy(String asked) {
        return asked.isEmpty() || asked.equals(name);
    }

    boolean holds(long offset, long length) {
        return offset >= 0 && length > 0 && offset <= source.sizeBytes() - length;
    }

    /** The stretch at an offset, which ends within the length at the latest. */
    Sparse.Stretch stretch(long offset, long length) {
        Sparse.Stretch known = source instanceof Sparse sparse ? sparse.stretch(offset) : new Sparse.Stretch(false, source.sizeBytes());
        return new Sparse.Stretch(known.zeros(), Math.min(known.endBytes(), offset + length));
    }

    void read(long offset, ByteBuffer into) throws IOException {
        source.read(offset, into);
    }
}
