package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.BlockTarget;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** One disk, or a file that is to be one, onto another disk, by the rules of a restore. */
public final class DiskCopy {
    private static final long END = 1L << 20;

    private final BlockSource source;
    private final Extents used;
    private final RestoreLayout layout;
    private final boolean everything;
    private final Watch watch;

    private DiskCopy(BlockSource source, Extents used, RestoreLayout layout, boolean everything, Watch watch) {
        this.source = source;
        this.used = used;
        this.layout = layout;
        this.everything = everything;
        this.watch = watch;
    }

    /**
     * Used blocks of a disk, laid out anew.
     *
     * @param zeroUnused whether the rest is written as zeros
     */
    public static RestoreOutcome run(BlockSource source, DiskSurvey survey, RestoreLayout layout, RestoreTarget target, boolean zeroUnused, boolean compare, Watch watch) throws IOException {
        if (!layout.fits()) {
            throw Fault.of(Fault.Kind.NO_ROOM, source.name(), layout.refusals().get(0).sentence() + " Nothing was written.").asException();
        }
        return new DiskCopy(source, survey.toRead(), layout, zeroUnused, watch).onto(target, compare);
    }

    /** Every byte of a file as it is, such as an ISO; what a table of the target's past left at its end goes. */
    public static RestoreOutcome bytes(BlockSource source, long targetBytes, RestoreTarget target, boolean compare, Watch watch) throws IOException {
        if (source.sizeBytes() > targetBytes) {
            throw Fault.of(Fault.Kind.NO_ROOM, source.name(), source.name() + " is " + (source.sizeBytes() - targetBytes) + " bytes longer than the target. Use a larger one. Nothing was written.").asException();
        }
        Extents all = Extents.range(0, source.sizeBytes());
        DiskSurvey survey = new DiskSurvey(source.name(), source.sizeBytes(), source.sectorBytes(), new PartitionTable.Absent(), List.of(), List.of(), all, SurveyChoice.ALL_BLOCKS);
        RestoreLayout layout = RestoreLayout.of(survey, LayoutTarget.blank(targetBytes, source.sectorBytes(), Firmware.UNKNOWN), app.granary.core.layout.LayoutChoice.KEEP);
        return new DiskCopy(source, all, layout, true, watch).onto(target, compare);
    }

    private RestoreOutcome onto(RestoreTarget to, boolean compare) throws IOException {
        Pieces pieces = Pieces.of(layout, source.sizeBytes());
        List<Patch> patches = Patches.of(source, layout);
        long written;
        try (BlockTarget target = to.open()) {
            TargetWriter writer = new TargetWriter(target, pieces, used, everything);
            each(Progress.Stage.RESTORING, (at, content, length) -> {
                if (used.bytesWithin(at, at + length) == 0) {
                    writer.zeros(at, length);
                } else {
                    writer.write(at, content, length);
                }
            });
            if (!(layout.table() instanceof PartitionTable.Gpt)) {
                long last = Math.max(source.sizeBytes() * (layout.asItWas() ? 1 : 0), layout.placed().stream().mapToLong(p -> p.to().endBytes()).max().orElse(0));
                writer.clear(Math.max(last, layout.target().sizeBytes() - END), layout.target().sizeBytes());
            }
            for (Patch patch : patches) {
                writer.patch(patch);
            }
            target.finish();
            written = writer.writtenBytes();
        }
        return new RestoreOutcome(layout.target().sizeBytes(), written, List.of(), compare ? compare(to, pieces, patches) : List.of(), compare);
    }

    private interface Taker {
        void take(long at, byte[] content, int length) throws IOException;
    }

    /** Chunk by chunk; what is not in use reads as zeros. */
    private void each(Progress.Stage stage, Taker taker) throws IOException {
        byte[] content = new byte[Chunks.BYTES];
        long done = 0;
        for (long chunk = 0; chunk < Chunks.count(source.sizeBytes()); chunk++) {
            long at = chunk * Chunks.BYTES;
            int length = Chunks.length(chunk, source.sizeBytes());
            if (chunk % 16 == 0) {
                watch.requireGoingOn(source.name());
                watch.advanced(new Progress(stage, done, used.totalBytes(), done));
            }
            Arrays.fill(content, 0, length, (byte) 0);
            for (int i = used.firstEndingAfter(at); i < used.count() && used.start(i) < at + length; i++) {
                int from = (int) (Math.max(at, used.start(i)) - at);
                int to = (int) (Math.min(at + length, used.end(i)) - at);
                source.read(at + from, ByteBuffer.wrap(content, from, to - from));
                done += to - from;
            }
            taker.take(at, content, length);
        }
    }

    private List<Problem> compare(RestoreTarget to, Pieces pieces, List<Patch> patches) throws IOException {
        List<Problem> out = new ArrayList<>();
        byte[] there = new byte[Chunks.BYTES];
        try (BlockSource copied = to.readBack()) {
            each(Progress.Stage.COMPARING, (at, content, length) -> pieces.within(at, at + length, (from, end, where) -> {
                for (int i = used.firstEndingAfter(from); i < used.count() && used.start(i) < end; i++) {
                    long left = Math.max(from, used.start(i));
                    long right = Math.min(end, used.end(i));
                    int start = (int) (left - at);
                    int count = (int) (right - left);
                    copied.read(where + left - from, ByteBuffer.wrap(there, start, count));
                    Patches.hide(patches, where + left - from, content, there, start, count);
                    if (!Arrays.equals(content, start, start + count, there, start, start + count) && out.size() < 100) {
                        out.add(new Problem("", 0, 0, "", left, right, "What was written differs from the source at bytes " + left + " to " + (right - 1) + ". Do not rely on this copy; its medium may be failing."));
                    }
                }
            }));
            for (Patch patch : Patches.lost(patches, copied)) {
                out.add(new Problem("", 0, 0, "", 0, 0, "What Granary wrote at byte " + patch.offsetBytes() + " of the target reads back as something else. Do not rely on this copy."));
            }
        }
        return out;
    }
}
