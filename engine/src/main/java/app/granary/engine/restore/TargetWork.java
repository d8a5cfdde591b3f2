package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.BlockTarget;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;

/**
 * Overwrites a target: every chunk of the source where the layout says, then the table and what boot sectors say of their place, and reads
 * all of it back. Restores, copies of disks and prepared drives differ in their source and their layout, and in nothing else.
 */
final class TargetWork {
    /** So often what is written is forced to the target and noted: often enough to lose little, seldom enough not to slow it. */
    private static final long NOTED_EVERY = 256;
    private static final long STALE_END = 1L << 20;

    private final ChunkSource source;
    private final RestoreLayout layout;
    private final How how;
    private final Watch watch;
    private final List<Problem> passedOver = Collections.synchronizedList(new ArrayList<>());

    /**
     * How it is written.
     *
     * @param zeroUnused   whether what is not in use is written as zeros; otherwise the target keeps there what it had
     * @param compare      whether everything is read back and compared
     * @param checkFirst   whether the source is proven before the first byte is overwritten
     * @param acceptDamage whether damaged chunks are passed over as zeros, and told; otherwise they end it
     * @param log          where it is noted how far it got, and read when {@code carryOn}; empty for what begins anew when it is broken off
     * @param onlyChanges  whether the target is read first, and only what differs is written
     */
    record How(boolean zeroUnused, boolean compare, boolean checkFirst, boolean acceptDamage, Optional<RestoreLog> log, boolean carryOn,
        boolean onlyChanges) {
        static How of(boolean zeroUnused, boolean compare) {
            return new How(zeroUnused, compare, false, false, Optional.empty(), false, false);
        }
    }

    TargetWork(ChunkSource source, RestoreLayout layout, How how, Watch watch) {
        this.source = source;
        this.layout = layout;
        this.how = how;
        this.watch = watch;
    }

    /**
     * @throws app.granary.core.fault.FaultException when it does not fit, or is damaged: a file then never gets its final name, and a
     *                                               device is left as it was unless the damage appeared between the check and the writing
     */
    RestoreOutcome onto(RestoreTarget to) throws IOException {
        if (!layout.fits()) {
            throw Fault.of(Fault.Kind.NO_ROOM, source.name(), layout.refusals().get(0).sentence() + " Nothing was written.").asException();
        }
        Pieces pieces = Pieces.of(layout, source.sizeBytes());
        List<Patch> patches = source.patches(layout);
        long written;
        boolean everything;
        Optional<Changes> changes = Optional.empty();
        try (BlockTarget target = to.open()) {
            everything = how.zeroUnused || target.startsAsZeros();
            if (!target.startsAsZeros() && how.checkFirst) {
                source.requireSound(watch);
            }
            if (how.onlyChanges && !target.startsAsZeros()) {
                changes = Optional.of(new Changes(to.readBack()));
            }
            TargetWriter writer = new TargetWriter(target, pieces, source.used(), how.zeroUnused, changes, source::unread);
            write(target, writer);
            clearStaleEnd(writer);
            for (Patch patch : patches) {
                writer.patch(patch);
            }
            target.finish();
            written = writer.writtenBytes();
        } finally {
            if (changes.isPresent()) {
                changes.get().close();
            }
        }
        List<Problem> differences = how.compare ? differences(to, new Comparison(source, pieces, patches, everything, passedOver, watch),
            changes) : List.of();
        if (how.log.isPresent()) {
            how.log.get().done();
        }
        return new RestoreOutcome(layout.target().sizeBytes(), written, passedOver, differences, how.compare);
    }

    private List<Problem> differences(RestoreTarget to, Comparison comparison, Optional<Changes> changes) throws IOException {
        try (BlockSource restored = to.readBack()) {
            return changes.isPresent() && !changes.get().tooMany() ? comparison.run(restored, layout, changes.get())
                : comparison.run(restored, layout);
        }
    }

    private void write(BlockTarget target, TargetWriter writer) throws IOException {
        Optional<String> identity = how.log.isPresent() ? source.identity() : Optional.empty();
        long begun = how.carryOn && identity.isPresent() ? goneBefore(how.log.orElseThrow().done(identity.get(), layout)) : 0;
        SafeSoFar safe = new SafeSoFar(begun);
        long[] noted = {begun};
        source.chunks(begun, Progress.Stage.RESTORING, watch, new ChunkSource.Taker() {
            @Override
            public void content(long chunk, long count, byte[] content, int length) throws IOException {
                put(writer, chunk, count, content, length);
                safe(chunk, count);
            }

            @Override
            public void damaged(long chunk, String why) throws IOException {
                passOver(writer, chunk, why);
                safe(chunk, 1);
            }

            private void safe(long chunk, long count) throws IOException {
                long upTo = safe.written(chunk, count);
                if (identity.isPresent()) {
                    note(target, identity.get(), upTo, noted);
                }
            }
        });
    }

    /** What was passed over before counts as if it were now; where damage is not accepted any more, it is begun again from there. */
    private long goneBefore(RestoreLog.Done done) {
        if (how.acceptDamage) {
            passedOver.addAll(done.passedOver());
            return done.chunks();
        }
        return done.passedOver().stream().mapToLong(each -> each.diskStartBytes() / Chunks.BYTES).min().orElse(done.chunks());
    }

    private void note(BlockTarget target, String identity, long upTo, long[] noted) throws IOException {
        synchronized (noted) {
            if (upTo - noted[0] >= NOTED_EVERY) {
                target.flush();
                how.log.orElseThrow().note(identity, layout, upTo, snapshot());
                noted[0] = upTo;
            }
        }
    }

    private List<Problem> snapshot() {
        synchronized (passedOver) {
            return List.copyOf(passedOver);
        }
    }

    private static void put(TargetWriter writer, long chunk, long count, byte[] content, int length) throws IOException {
        long at = chunk * Chunks.BYTES;
        if (Chunks.isZero(content, length)) {
            writer.zeros(at, (count - 1) * Chunks.BYTES + length);
            return;
        }
        for (long i = 0; i < count; i++) {
            writer.write(at + i * Chunks.BYTES, content, length);
        }
    }

    private void passOver(TargetWriter writer, long chunk, String why) throws IOException {
        long at = chunk * Chunks.BYTES;
        int length = Chunks.length(chunk, source.sizeBytes());
        if (!how.acceptDamage) {
            throw Fault.damaged(source.name(), at, "", "", "The image " + source.name() + " is damaged at byte " + at + " of the disk: "
                + why
                + ". The restore was not completed. Check the image, and use another copy; or restore it all the same, without what is "
                + "damaged.")
                .asException();
        }
        String where = source.where(at, at + length);
        passedOver.add(new Problem("", 0, 0, where, at, at + length, "Bytes " + at + " to " + (at + length - 1) + " of the disk (" + where
            + ") are damaged in the image (" + why + ") and are zeros on the target."));
        writer.zeros(at, length);
    }

    /** An MBR has nothing at the end of its disk; what a GPT left there would be taken for one. What the source itself has there stays. */
    private void clearStaleEnd(TargetWriter writer) throws IOException {
        if (layout.table() instanceof PartitionTable.Gpt || layout.othersStay()) {
            return;
        }
        Extents used = source.used();
        long own = layout.asItWas() && used.count() > 0 ? used.end(used.count() - 1) : 0;
        long last = Math.max(own, layout.placed().stream().mapToLong(each -> each.to().endBytes()).max().orElse(0));
        long end = layout.target().sizeBytes();
        writer.clear(Math.max(last, end - STALE_END), end);
    }
}
