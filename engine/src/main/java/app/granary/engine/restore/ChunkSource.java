package app.granary.engine.restore;

import app.granary.core.disk.Extents;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** A disk that is written onto a target, chunk by chunk, with what of it is damaged: out of an image, off another disk, or made. */
interface ChunkSource {
    /** How people know it. */
    String name();

    /** Length of the disk it is, in bytes. */
    long sizeBytes();

    /** What of it is in use. */
    Extents used();

    /** The same, of which only this is wanted: chunks that hold none of it may be passed over when it is gone through. */
    ChunkSource only(Extents wanted);

    /** What tells it from all others in a log of how far work got; empty for what cannot be carried on. */
    Optional<String> identity() throws IOException;

    /**
     * Made sure of before the first byte is overwritten: what is overwritten is gone.
     *
     * @throws app.granary.core.fault.FaultException when it would not come through whole
     */
    void requireSound(Watch watch) throws IOException;

    /** What a layout changes of its tables and boot sectors, in rising order. */
    List<Patch> patches(RestoreLayout layout) throws IOException;

    /**
     * Gives all of it from one chunk on.
     *
     * @param watch asked and told as it goes
     */
    void chunks(long from, Progress.Stage stage, Watch watch, Taker taker) throws IOException;

    /** Takes chunks; called by several threads at once. */
    interface Taker {
        /** @param count how many equal ones in a row, the last of which may be short */
        void content(long chunk, long count, byte[] content, int length) throws IOException;

        /** @param why as a clause */
        void damaged(long chunk, String why) throws IOException;
    }

    /** Whether it can only be read onwards, so that one reader goes through it; of others, many read at once. */
    boolean onwards();

    /** What of it could not be read so far, and reads as zeros; a spare that is refreshed keeps what it has there. */
    default Extents unread() {
        return Extents.NONE;
    }

    /** For a comparison. */
    Reader reader() throws IOException;

    /** Tells what should be on the target. Used by one thread. */
    interface Reader extends Closeable {
        /** The CRC-32C of a chunk where that is known without reading it. */
        OptionalInt crc(long chunk);

        /** @param into filled from its start; what is not in use reads as zeros */
        void read(long at, byte[] into, int length) throws IOException;
    }

    /** Which parts of the disk a stretch lies in, in words; an empty string where that is not known. */
    String where(long from, long to);

    /** What a difference is, as a sentence. */
    String differs(long from, long to);

    /** The number of its chunks. */
    default long count() {
        return Chunks.count(sizeBytes());
    }
}
