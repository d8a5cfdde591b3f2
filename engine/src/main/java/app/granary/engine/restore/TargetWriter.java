package app.granary.engine.restore;

import app.granary.core.disk.Extents;
import app.granary.engine.codec.Chunks;
import app.granary.engine.source.BlockTarget;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;

/** Writes stretches of a disk where they belong. By several threads at once, as long as stretches do not overlap. */
final class TargetWriter {
    private static final byte[] ZEROS = new byte[Chunks.BYTES];

    private final BlockTarget target;
    private final Pieces pieces;
    private final Extents used;
    private final boolean everything;
    private final Optional<Changes> changes;
    private final Supplier<Extents> unread;
    private final AtomicLong written = new AtomicLong();

    /**
     * @param zeroUnused whether what is not among {@code used} is written too
     * @param changes    for a target of which only what differs is written; otherwise empty
     * @param unread     what of the disk could not be read so far: what the target has there is better than nothing, and stays where only
     *                   what differs is written
     */
    TargetWriter(BlockTarget target, Pieces pieces, Extents used, boolean zeroUnused, Optional<Changes> changes,
        Supplier<Extents> unread) {
        this.changes = changes;
        this.unread = unread;
        this.target = target;
        this.pieces = pieces;
        this.used = used;
        this.everything = zeroUnused || target.startsAsZeros();
    }

    long writtenBytes() {
        return written.get();
    }

    /** @param at where on the disk the content begins */
    void write(long at, byte[] content, int length) throws IOException {
        if (target.startsAsZeros() && Chunks.isZero(content, length)) {
            return;
        }
        pieces.within(at, at + length, (from, to, where) -> each(from, to, where,
            (start, end, there) -> known(start, end, there, content, (int) (start - at))));
    }

    /** Zeros, however many. */
    void zeros(long at, long length) throws IOException {
        if (target.startsAsZeros()) {
            return;
        }
        pieces.within(at, at + length, (from, to, where) -> each(from, to, where, (start, end, there) -> {
            for (long done = 0; done < end - start; done += ZEROS.length) {
                put(there + done, ZEROS, 0, (int) Math.min(ZEROS.length, end - start - done));
            }
        }));
    }

    void patch(Patch patch) throws IOException {
        store(patch.offsetBytes(), patch.content(), 0, patch.content().length);
    }

    /** Zeros at a place of the target itself. */
    void clear(long from, long to) throws IOException {
        for (long at = from; at < to && !target.startsAsZeros(); at += ZEROS.length) {
            put(at, ZEROS, 0, (int) Math.min(ZEROS.length, to - at));
        }
    }

    private void each(long from, long to, long where, Pieces.Taker taker) throws IOException {
        if (everything) {
            taker.take(from, to, where);
            return;
        }
        for (int i = used.firstEndingAfter(from); i < used.count() && used.start(i) < to; i++) {
            long start = Math.max(from, used.start(i));
            long end = Math.min(to, used.end(i));
            taker.take(start, end, where + start - from);
        }
    }

    private void known(long start, long end, long there, byte[] content, int from) throws IOException {
        Extents bad = changes.isEmpty() ? Extents.NONE : unread.get();
        if (bad.isEmpty()) {
            put(there, content, from, (int) (end - start));
            return;
        }
        Extents known = Extents.range(start, end).minus(bad);
        for (int i = 0; i < known.count(); i++) {
            int skipped = (int) (known.start(i) - start);
            put(there + skipped, content, from + skipped, (int) (known.end(i) - known.start(i)));
        }
    }

    private void put(long at, byte[] content, int from, int length) throws IOException {
        if (changes.isPresent()) {
            changes.get().write(at, content, from, length, this::store);
        } else {
            store(at, content, from, length);
        }
    }

    private void store(long at, byte[] content, int from, int length) throws IOException {
        target.write(at, ByteBuffer.wrap(content, from, length));
        written.addAndGet(length);
    }
}
