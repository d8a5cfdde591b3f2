package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.PartitionTable;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Frame;
import app.granary.engine.bag.FrameReader;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.BlockTarget;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/**
 * One restore: decodes every frame, compares its checksum, writes it where the layout says, then the table and what boot sectors say of their place, and reads all of
 * it back.
 */
public final class Restore {
    /** So often what is written is forced to the target and noted: often enough to lose little, seldom enough not to slow it. */
    private static final long NOTED_EVERY = 256;
    private static final long STALE_END = 1L << 20;

    private final Bag bag;
    private final ImageJson.Content content;
    private final RestoreRequest request;
    private final Watch watch;
    private final List<Problem> passedOver = Collections.synchronizedList(new ArrayList<>());

    private Restore(Bag bag, ImageJson.Content content, RestoreRequest request, Watch watch) {
        this.bag = bag;
        this.content = content;
        this.request = request;
        this.watch = watch;
    }

    /** What is in an image, page files and swap included as the zeros they are there; all of it when its table cannot be read. */
    public static DiskSurvey survey(Bag bag, ImageJson.Content content) throws IOException {
        try (ImageSource source = new ImageSource(bag, content)) {
            return DiskSurvey.of(source, new SurveyChoice(content.description().allBlocks(), true, content.description().lacking()));
        } catch (app.granary.core.fault.FaultException unreadable) {
            if (unreadable.fault().kind() == Fault.Kind.LOCKED) {
                throw unreadable;
            }
            long bytes = content.description().disk().sizeBytes();
            return new DiskSurvey(content.description().name(), bytes, content.description().sectorBytes(), new PartitionTable.Damaged(content.description().scheme(), unreadable.fault()), List.of(), List.of(),
                Extents.range(0, bytes), SurveyChoice.ALL_BLOCKS);
        }
    }

    /** Onto something of the disk's own size, everything where it was. */
    public static RestoreRequest asItWas(Bag bag, ImageJson.Content content, long targetBytes) throws IOException {
        DiskSurvey survey = survey(bag, content);
        return RestoreRequest.of(survey, RestoreLayout.of(survey, LayoutTarget.blank(targetBytes, survey.sectorBytes(), Firmware.UNKNOWN), LayoutChoice.KEEP));
    }

    /**
     * Into a new file of the disk's own size, without reading it back.
     *
     * @return that size
     */
    public static long toFile(Bag bag, Path file, Watch watch) throws IOException {
        ImageJson.Content content = bag.content();
        bag.requireOpens(content.description());
        long bytes = content.description().disk().sizeBytes();
        RestoreTarget target = RestoreTarget.file(file, bytes, content.description().sectorBytes());
        return run(bag, content, asItWas(bag, content, bytes).comparing(false), target, watch).targetBytes();
    }

    /**
     * @throws app.granary.core.fault.FaultException when the image does not fit, or is damaged: a file then never gets its final name, and a device is left as it was
     *     unless the damage appeared between the check and the writing
     */
    public static RestoreOutcome run(Bag bag, ImageJson.Content content, RestoreRequest request, RestoreTarget target, Watch watch) throws IOException {
        if (!request.layout().fits()) {
            throw Fault.of(Fault.Kind.NO_ROOM, content.description().name(), request.layout().refusals().get(0).sentence() + " Nothing was written.").asException();
        }
        return new Restore(bag, content, request, watch).onto(target);
    }

    private RestoreOutcome onto(RestoreTarget to) throws IOException {
        RestoreLayout layout = request.layout();
        Pieces pieces = Pieces.of(layout, content.description().disk().sizeBytes());
        List<Patch> patches;
        try (ImageSource image = new ImageSource(bag, content)) {
            patches = Patches.of(image, layout);
        }
        bag.requireOpens(content.description());
        long written;
        boolean everything;
        try (BlockTarget target = to.open()) {
            everything = request.zeroUnused() || target.startsAsZeros();
            if (!target.startsAsZeros() && request.checkFirst()) {
                requireSound(); // what is overwritten is gone, so the image is proven first
            }
            TargetWriter writer = new TargetWriter(target, pieces, request.survey().toRead(), request.zeroUnused());
            write(target, writer);
            clearStaleEnd(layout, writer);
            for (Patch patch : patches) {
                writer.patch(patch);
            }
            target.finish();
            written = writer.writtenBytes();
        }
        List<Problem> differences = List.of();
        if (request.compare()) {
            try (BlockSource restored = to.readBack()) {
                differences = new Comparison(bag, content, pieces, patches, request.survey().toRead(), everything, passedOver, watch).run(restored, layout);
            }
        }
        if (request.log().isPresent()) {
            request.log().get().done();
        }
        return new RestoreOutcome(layout.target().sizeBytes(), written, passedOver, differences, request.compare());
    }

    private void write(BlockTarget target, TargetWriter writer) throws IOException {
        long begun = request.carryOn() && request.log().isPresent() ? goneBefore(request.log().get().done(bag, request.layout())) : 0;
        SafeSoFar safe = new SafeSoFar(begun);
        long[] noted = {begun};
        try (FrameReader reader = new FrameReader(bag, content, Progress.Stage.RESTORING, watch)) {
            reader.frames(begun, frame -> {
                frame(writer, frame);
                long upTo = safe.written(frame.chunk(), frame.count());
                if (request.log().isPresent()) {
                    note(target, upTo, noted);
                }
            });
        }
    }

    /** What was passed over before counts as if it were now; where damage is not accepted any more, it is begun again from there. */
    private long goneBefore(RestoreLog.Done done) {
        if (request.acceptDamage()) {
            passedOver.addAll(done.passedOver());
            return done.chunks();
        }
        return done.passedOver().stream().mapToLong(each -> each.diskStartBytes() / Chunks.BYTES).min().orElse(done.chunks());
    }

    private void note(BlockTarget target, long upTo, long[] noted) throws IOException {
        synchronized (noted) {
            if (upTo - noted[0] >= NOTED_EVERY) {
                target.flush();
                request.log().orElseThrow().note(bag, request.layout(), upTo, snapshot());
                noted[0] = upTo;
            }
        }
    }

    private List<Problem> snapshot() {
        synchronized (passedOver) {
            return List.copyOf(passedOver);
        }
    }

    private void frame(TargetWriter writer, Frame frame) throws IOException {
        long at = frame.chunk() * Chunks.BYTES;
        if (!frame.sound()) {
            Problem problem = damaged(at, Chunks.length(frame.chunk(), content.description().disk().sizeBytes()), frame.fault());
            if (!request.acceptDamage()) {
                throw Fault.damaged(content.description().name(), at, "", "", "The image " + content.description().name() + " is damaged at byte " + at + " of the disk: " + frame.fault()
                    + ". The restore was not completed. Check the image, and use another copy; or restore it all the same, without what is damaged.").asException();
            }
            passedOver.add(problem);
            writer.zeros(at, problem.diskEndBytes() - at);
        } else if (Chunks.isZero(frame.raw(), frame.rawBytes())) {
            writer.zeros(at, (frame.count() - 1) * Chunks.BYTES + frame.rawBytes());
        } else {
            for (long i = 0; i < frame.count(); i++) {
                writer.write(at + i * Chunks.BYTES, frame.raw(), frame.rawBytes());
            }
        }
    }

    private Problem damaged(long at, int length, String why) {
        String where = content.description().partitionsWithin(at, at + length);
        return new Problem("", 0, 0, where, at, at + length, "Bytes " + at + " to " + (at + length - 1) + " of the disk (" + where + ") are damaged in the image (" + why + ") and are zeros on the target.");
    }

    /** An MBR has nothing at the end of its disk; what a GPT left there would be taken for one. */
    private static void clearStaleEnd(RestoreLayout layout, TargetWriter writer) throws IOException {
        if (!(layout.table() instanceof PartitionTable.Gpt) && !layout.othersStay() && !layout.placed().isEmpty()) {
            long last = layout.placed().stream().mapToLong(each -> each.to().endBytes()).max().orElse(0);
            long end = layout.target().sizeBytes();
            writer.clear(Math.max(last, end - STALE_END), end);
        }
    }

    private void requireSound() throws IOException {
        CheckOutcome outcome = Verification.run(bag, ProofLevel.READABLE, watch);
        if (!outcome.ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, bag.folder().toString(), "The image is damaged, so the disk was not touched: " + outcome.problems().get(0).message()).asException();
        }
    }
}
