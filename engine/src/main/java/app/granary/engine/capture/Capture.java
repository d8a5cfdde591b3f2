package app.granary.engine.capture;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SfdiskDump;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.codec.ZeroFrame;
import app.granary.engine.progress.OrderedWork;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.PartsRead;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.stream.Stream;

/** One capture: reads, compresses, digests and writes at the same time, checks what was written, then gives the image its name. */
public final class Capture {
    private final BlockSource source;
    private final DiskSurvey survey;
    private final CaptureRequest request;
    private final Watch watch;
    private final FrameIndex index = new FrameIndex();
    private long readBytes;

    private Capture(BlockSource source, DiskSurvey survey, CaptureRequest request, Watch watch) {
        this.source = source;
        this.survey = survey;
        this.request = request;
        this.watch = watch;
    }

    /**
     * @param destination an existing folder
     * @param clock       for the date in the image
     * @throws app.granary.core.fault.FaultException when it cannot be made; then nothing is left under a final name
     */
    public static CaptureResult run(BlockSource source, DiskSurvey survey, CaptureRequest request, Path destination, Clock clock, Watch watch) throws IOException {
        Capture capture = new Capture(source, survey, request, watch);
        try {
            return capture.into(destination, clock);
        } catch (FaultException known) {
            throw known;
        } catch (IOException failure) {
            throw explained(failure, destination);
        }
    }

    /** Room is the usual reason a write fails; the operating system says so only in words. */
    private static IOException explained(IOException failure, Path destination) throws IOException {
        String why = String.valueOf(failure.getMessage());
        if (why.contains("No space left") || why.contains("quota")) {
            return Fault.of(Fault.Kind.NO_ROOM, destination.toString(), "The destination " + destination + " became full (" + Sizes.decimal(Files.getFileStore(destination)
                .getUsableSpace()) + " left). What was written has been removed; the disk and the older images are untouched. Make room, or choose another destination.").asException();
        }
        return Fault.of(Fault.Kind.DEVICE_FAILED, destination.toString(), "Writing to " + destination + " failed: " + why
            + ". No image was made; the disk and the older images are untouched. Check the drive and its cable.").asException();
    }

    private CaptureResult into(Path destination, Clock clock) throws IOException {
        try (BagWriter bag = BagWriter.create(destination, request.name(), request.codec(), source.sizeBytes(), request.splitBytes(), !request.check())) {
            frames(bag);
            List<ImageDescription.Part> parts = bag.endFrames();
            byte[] firstSector = new byte[(int) Math.min(512, source.sizeBytes())];
            source.read(0, ByteBuffer.wrap(firstSector));
            String madeAt = OffsetDateTime.now(clock).truncatedTo(ChronoUnit.SECONDS).format(DateTimeFormatter.ISO_OFFSET_DATE_TIME);
            ImageDescription description = description(madeAt, parts);
            String table = SfdiskDump.write(survey.table(), survey.sectorBytes());
            Optional<CheckOutcome> check = Optional.empty();
            if (request.check()) {
                // the manifest gets the digests of what the destination gave back, each frame of which is the disk's chunk by its checksum
                PartsRead back = Verification.readParts(bag.partial(), new ImageJson.Content(description, index), watch);
                requireSound(back.damage(), destination);
                bag.complete(description, index, table, firstSector, back.digests());
                CheckOutcome outcome = Verification.ofUnnamed(bag.partial(), back, watch);
                requireSound(outcome.problems(), destination);
                check = Optional.of(outcome);
            } else {
                bag.complete(description, index, table, firstSector, bag.digests());
            }
            watch.requireGoingOn(source.name());
            long stored = storedBytes(bag.partial());
            return new CaptureResult(bag.finish(), stored, source.sizeBytes(), survey.usedBytes(), check);
        }
    }

    private static void requireSound(List<Problem> problems, Path destination) throws IOException {
        if (!problems.isEmpty()) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, destination.toString(), "What was read back from " + destination + " is not what was written: "
                + problems.get(0).message() + " No image was made. Do not trust this drive; choose another destination.").asException();
        }
    }

    private ImageDescription description(String madeAt, List<ImageDescription.Part> parts) {
        List<ImageDescription.ImagePartition> partitions = survey.partitions().stream().map(p -> new ImageDescription.ImagePartition(p.partition().number(),
            p.partition().startBytes(), p.partition().sizeBytes(), p.partition().type().code(), p.partition().name(), p.fileSystem().kind(),
            survey.allBlocks() ? p.partition().sizeBytes() : p.toRead().totalBytes(), p.reason())).toList();
        List<ImageDescription.LeftOutContent> leftOut = survey.partitions().stream().flatMap(p -> p.leftOut().stream().map(each ->
            new ImageDescription.LeftOutContent(p.partition().number(), each.path(), each.what().word(), each.bytes()))).toList();
        return new ImageDescription(request.name().text(), madeAt, request.identity(), survey.sectorBytes(), survey.table().scheme(), request.codec(),
            request.level(), survey.allBlocks(), survey.usedBytes(), partitions, leftOut, parts);
    }

    /** One chunk on its way: the buffers are reused from job to job. */
    private static final class Job {
        final byte[] raw = new byte[Chunks.BYTES];
        final byte[] frame;
        final FrameCoder coder;
        int storedBytes;
        int crc;
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
            long next = 0;
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
        int length = reader.read(chunk, job.raw);
        job.contentBytes = reader.contentBytes(chunk);
        job.zeros = length == Chunks.BYTES && Chunks.isZero(job.raw, length);
        if (!job.zeros) {
            job.crc = Chunks.crc(job.raw, length);
            job.storedBytes = job.coder.encode(job.raw, length, job.frame);
        }
        return job;
    }

    /** Writes finished frames, in order, until at most {@code left} are under way. */
    private void drain(OrderedWork<Job> work, BagWriter bag, BlockingQueue<Job> idle, ZeroFrame zero, int left) throws IOException {
        while (work.underWay() > left) {
            watch.requireGoingOn(source.name());
            Job job = work.takeOldest();
            if (job.zeros) {
                bag.frame(zero.frame(), zero.frame().length);
                index.add(1, zero.frame().length, zero.crc(), true);
            } else {
                bag.frame(job.frame, job.storedBytes);
                index.add(1, job.storedBytes, job.crc, false);
            }
            readBytes += job.contentBytes;
            idle.add(job);
            tell(bag);
        }
    }

    /** Writes the frames of chunks without content; only the disk's last chunk can be shorter than the rest. */
    private long zeros(BagWriter bag, ZeroFrame zero, long from, long to) throws IOException {
        long whole = to * Chunks.BYTES > source.sizeBytes() ? to - 1 : to;
        for (long chunk = from; chunk < whole; chunk++) {
            if (chunk % 4096 == 0) {
                watch.requireGoingOn(source.name());
                tell(bag);
            }
            bag.frame(zero.frame(), zero.frame().length);
        }
        if (whole > from) {
            index.add(whole - from, zero.frame().length, zero.crc(), true);
        }
        if (whole < to) {
            ZeroFrame last = ZeroFrame.of(request.codec(), request.level(), Chunks.length(whole, source.sizeBytes()));
            bag.frame(last.frame(), last.frame().length);
            index.add(1, last.frame().length, last.crc(), false);
        }
        return to;
    }

    private void tell(BagWriter bag) {
        watch.advanced(new Progress(Progress.Stage.CAPTURING, readBytes, survey.usedBytes(), bag.writtenBytes()));
    }

    private static long storedBytes(Path bag) throws IOException {
        try (Stream<Path> files = Files.walk(bag)) {
            return files.filter(Files::isRegularFile).mapToLong(file -> file.toFile().length()).sum();
        }
    }
}
