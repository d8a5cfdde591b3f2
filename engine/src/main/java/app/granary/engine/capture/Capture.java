package app.granary.engine.capture;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SfdiskDump;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.image.BadStretch;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.Begun;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.codec.ZeroFrame;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.OrderedWork;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.verify.PartsRead;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;

/**
 * One capture: reads, compresses, encrypts, digests and writes at the same time, checks what was written, then gives the image its name.
 */
public final class Capture {
    /** So many frames of zeros are written between two looks at whether to go on. */
    private static final int ZEROS_AT_ONCE = 4096;

    private final CarefulSource source;
    private final DiskSurvey survey;
    private final CaptureRequest request;
    private final Watch watch;
    private long readBytes;

    private Capture(BlockSource source, DiskSurvey survey, CaptureRequest request, Watch watch) {
        this.source = new CarefulSource(source);
        this.survey = survey;
        this.request = request;
        this.watch = watch;
    }

    /**
     * @param destination an existing folder
     * @param clock       for the date in the image
     * @throws app.granary.core.fault.FaultException when it cannot be made; then nothing is left under a final name, and what was written
     *                                               can be carried on unless the fault says otherwise
     */
    public static CaptureResult run(BlockSource source, DiskSurvey survey, CaptureRequest request, Path destination, Clock clock,
        Watch watch) throws IOException {
        Capture capture = new Capture(source, survey, request, watch);
        try {
            OptionalLong split = request.splitBytes().isPresent() || request.passphrase().isNone() ? request.splitBytes()
                : OptionalLong.of(BagWriter.ENCRYPTED_SPLIT);
            Begun begun = new Begun(now(clock), request.identity(), survey.choice(), Begun.digestOf(survey), survey.usedBytes(),
                request.codec(), request.level(), split, !request.passphrase().isNone(), request.comment());
            return capture.into(BagWriter.create(destination, request.name(), begun, request.passphrase(), !request.check()), destination,
                clock);
        } catch (IOException failure) {
            throw CaptureFaults.explained(failure, destination);
        }
    }

    /**
     * Carries an unfinished capture on behind its last whole frame.
     *
     * @param source     the same disk, in the same state
     * @param survey     with the choice it was begun with
     * @param passphrase the one it was begun with; none when it is not encrypted
     * @throws app.granary.core.fault.FaultException of kind FORBIDDEN when it is another disk, or the disk has changed since; nothing is
     *                                               changed then
     */
    public static CaptureResult carryOn(BlockSource source, DiskSurvey survey, DiskIdentity identity, Unfinished unfinished,
        Passphrase passphrase, Clock clock, Watch watch)
        throws IOException {
        Begun begun = unfinished.begun();
        CaptureRequest request = new CaptureRequest(unfinished.name(), begun.codec(), begun.level(), begun.splitBytes(), passphrase,
            identity, true);
        Capture capture = new Capture(source, survey, request, watch);
        Path destination = unfinished.partial().toAbsolutePath().getParent();
        try {
            return capture.into(new CarryOn(unfinished, capture.source, survey, identity).open(passphrase), destination, clock);
        } catch (IOException failure) {
            throw CaptureFaults.explained(failure, destination);
        }
    }

    private static String now(Clock clock) {
        return OffsetDateTime.now(clock).truncatedTo(ChronoUnit.SECONDS).format(DateTimeFormatter.ISO_OFFSET_DATE_TIME);
    }

    private CaptureResult into(BagWriter writer, Path destination, Clock clock) throws IOException {
        try (BagWriter bag = writer) {
            frames(bag);
            List<ImageDescription.Part> parts = bag.endFrames();
            requireUnchanged(bag);
            byte[] firstSector = new byte[(int) Math.min(512, source.sizeBytes())];
            source.read(0, ByteBuffer.wrap(firstSector));
            ImageDescription description = description(now(clock), bag.badSectors(), parts);
            String table = SfdiskDump.write(survey.table(), survey.sectorBytes());
            Optional<CheckOutcome> check = Optional.empty();
            if (request.check()) {
                // the manifest gets the digests of what the destination gave back, each frame of which is the disk's chunk by its checksum
                PartsRead back = Verification.readParts(new Bag(bag.partial(), request.passphrase()),
                    new ImageJson.Content(description, bag.index()), watch);
                requireSound(back.damage(), bag, destination);
                bag.complete(description, table, firstSector, back.digests());
                CheckOutcome outcome = Verification.ofUnnamed(new Bag(bag.partial(), request.passphrase()), back, watch);
                requireSound(outcome.problems(), bag, destination);
                check = Optional.of(outcome);
            } else {
                bag.complete(description, table, firstSector, bag.digests());
            }
            watch.requireGoingOn(source.name());
            long stored = Folders.bytes(bag.partial());
            return new CaptureResult(bag.finish(), stored, source.sizeBytes(), survey.usedBytes(), description.badSectors(), check);
        }
    }

    private void requireUnchanged(BagWriter bag) throws IOException {
        try {
            Unchanged.require(source, survey, bag);
        } catch (FaultException torn) {
            bag.discard();
            throw torn;
        }
    }

    private static void requireSound(List<Problem> problems, BagWriter bag, Path destination) throws IOException {
        if (!problems.isEmpty()) {
            bag.discard();
            throw Fault
                .of(Fault.Kind.DEVICE_FAILED, destination.toString(),
                    "What was read back from " + destination + " is not what was written: "
                        + problems.get(0).message()
                        + " No image was made, and what was written was removed. Do not trust this drive; choose another destination.")
                .asException();
        }
    }

    private ImageDescription description(String madeAt, List<BadStretch> bad, List<ImageDescription.Part> parts) {
        List<ImageDescription.ImagePartition> partitions = survey.partitions().stream()
            .map(p -> new ImageDescription.ImagePartition(p.partition().number(),
                p.partition().startBytes(), p.partition().sizeBytes(), p.partition().type().code(), p.partition().name(),
                p.fileSystem().kind(),
                survey.allBlocks() ? p.partition().sizeBytes() : p.toRead().totalBytes(), p.reason()))
            .toList();
        List<ImageDescription.LeftOutContent> leftOut = survey.partitions().stream()
            .flatMap(p -> p.leftOut().stream()
                .map(each -> new ImageDescription.LeftOutContent(p.partition().number(), each.path(), each.what().word(), each.bytes())))
            .toList();
        return new ImageDescription(request.name().text(), madeAt, request.identity(), survey.sectorBytes(), survey.table().scheme(),
            request.codec(),
            request.level(), survey.allBlocks(), survey.usedBytes(), !request.passphrase().isNone(), bad, partitions, leftOut, parts);
    }

    /** One chunk on its way: the buffers are reused from job to job. */
    private static final class Job {
        final byte[] raw = new byte[Chunks.BYTES];
        final byte[] frame;
        final FrameCoder coder;
        final List<BadStretch> bad = new ArrayList<>();
        int storedBytes;
        int crc;
        int stateCrc;
        boolean zeros;
        long contentBytes;

        Job(CaptureRequest request) {
            frame = new byte[request.codec().maxFrameBytes(Chunks.BYTES)];
            coder = request.codec().coder(request.level());
        }
    }

    private void frames(BagWriter bag) throws IOException {
        ChunkReader reader = new ChunkReader(source, survey.toRead());
        ZeroFrame zero = ZeroFrame.of(request.codec(), request.level(), Chunks.BYTES);
        long chunks = Chunks.count(source.sizeBytes());
        OrderedWork<Job> work = new OrderedWork<>("granary-capture");
        BlockingQueue<Job> idle = new ArrayBlockingQueue<>(work.slots());
        for (int i = 0; i < work.slots(); i++) {
            idle.add(new Job(request));
        }
        List<Job> all = List.copyOf(idle);
        try {
            long next = bag.index().chunks();
            readBytes = survey.toRead().bytesWithin(0, next * Chunks.BYTES);
            while (next < chunks) {
                long content = reader.nextWithContent(next);
                if (content > next) {
                    drain(work, bag, idle, zero, 0);
                    next = zeros(bag, zero, next, content);
                } else {
                    drain(work, bag, idle, zero, work.slots() - 1);
                    Job job = idle.remove();
                    long chunk = next++;
                    work.submit(() -> encode(job, reader, chunk));
                }
            }
            drain(work, bag, idle, zero, 0);
        } finally {
            work.close();
            all.forEach(job -> job.coder.close());
        }
    }

    private static Job encode(Job job, ChunkReader reader, long chunk) throws IOException {
        job.bad.clear();
        int length = reader.read(chunk, job.raw, job.bad);
        job.contentBytes = reader.contentBytes(chunk);
        job.zeros = length == Chunks.BYTES && Chunks.isZero(job.raw, length);
        if (!job.zeros) {
            job.crc = Chunks.crc(job.raw, length);
            job.stateCrc = Chunks.stateCrc(job.raw, length);
            job.storedBytes = job.coder.encode(job.raw, length, job.frame);
        }
        return job;
    }

    /** Writes finished frames, in order, until at most {@code left} are under way. */
    private void drain(OrderedWork<Job> work, BagWriter bag, BlockingQueue<Job> idle, ZeroFrame zero, int left) throws IOException {
        while (work.underWay() > left) {
            watch.requireGoingOn(source.name());
            Job job = work.takeOldest();
            bag.bad(job.bad);
            if (job.zeros) {
                bag.zeros(zero, 1);
            } else {
                bag.frame(job.frame, job.storedBytes, job.crc, job.stateCrc);
            }
            readBytes += job.contentBytes;
            idle.add(job);
            tell(bag);
        }
    }

    /** Writes the frames of chunks without content; only the disk's last chunk can be shorter than the rest. */
    private long zeros(BagWriter bag, ZeroFrame zero, long from, long to) throws IOException {
        long whole = to * Chunks.BYTES > source.sizeBytes() ? to - 1 : to;
        for (long chunk = from; chunk < whole; chunk += ZEROS_AT_ONCE) {
            watch.requireGoingOn(source.name());
            tell(bag);
            bag.zeros(zero, Math.min(ZEROS_AT_ONCE, whole - chunk));
        }
        if (whole < to) {
            ZeroFrame last = ZeroFrame.of(request.codec(), request.level(), Chunks.length(whole, source.sizeBytes()));
            bag.frame(last.frame(), last.frame().length, last.crc(), Chunks.stateCrc(new byte[last.length()], last.length()));
        }
        return to;
    }

    private void tell(BagWriter bag) {
        watch.advanced(new Progress(Progress.Stage.CAPTURING, readBytes, survey.usedBytes(), bag.writtenBytes()));
    }
}
