package app.granary.engine.bag;

import app.granary.core.disk.Extents;
import app.granary.engine.codec.BadFrameException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.progress.OrderedWork;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Reads all frames of an image in order, digesting the parts on one thread and decoding on all. Each decoded chunk is compared with its
 * CRC-32C. Runs of equal frames are decoded once and compared byte by byte after that.
 */
public final class FrameReader implements Closeable {
    /** Takes one frame; called by several threads at once. */
    public interface Handler {
        void take(Frame frame) throws IOException;
    }

    /**
     * What reading gave besides the frames.
     *
     * @param digests   by path, of the parts that were there
     * @param faults    what is wrong with parts as files, by path; usually empty
     * @param readBytes stored bytes read
     */
    public record Outcome(Map<String, String> digests, Map<String, String> faults, long readBytes) {
    }

    private final ImageDescription description;
    private final FrameIndex index;
    private final Bag bag;
    private final Watch watch;
    private final Progress.Stage stage;
    private final OrderedWork<Job> work = new OrderedWork<>("granary-frames");
    private final List<Job> jobs;
    private final Deque<Job> idle;

    private static final class Job implements Closeable {
        final byte[] stored;
        final byte[] raw = new byte[Chunks.BYTES];
        final FrameCoder coder;

        Job(Codec codec, int level) {
            stored = new byte[codec.maxFrameBytes(Chunks.BYTES)];
            coder = codec.coder(level);
        }

        @Override
        public void close() {
            coder.close();
        }
    }

    public FrameReader(Bag bag, ImageJson.Content content, Progress.Stage stage, Watch watch) {
        this.description = content.description();
        this.index = content.index();
        this.bag = bag;
        this.stage = stage;
        this.watch = watch;
        this.jobs = java.util.stream.Stream.generate(() -> new Job(description.codec(), description.level())).limit(work.slots()).toList();
        this.idle = new ArrayDeque<>(jobs);
    }

    /** Digests the parts as files, without decoding anything. */
    public static Outcome digests(Bag bag, ImageDescription description, Progress.Stage stage, Watch watch) throws IOException {
        return PartDigests.of(bag.folder().resolve("data"), description, stage, watch);
    }

    /** Decodes every frame and gives it to the handler. */
    public Outcome read(Handler handler) throws IOException {
        return read(0, Extents.range(0, description.disk().sizeBytes()), true, handler);
    }

    /**
     * The same from one chunk on: rows that end before it, or hold nothing that is wanted, are passed over and not decoded. Parts are not
     * digested: each frame has its own checksums, and digesting takes as long as a third of the decoding.
     */
    public void frames(long fromChunk, Extents wanted, Handler handler) throws IOException {
        read(fromChunk, wanted, false, handler);
    }

    private Outcome read(long fromChunk, Extents wanted, boolean digesting, Handler handler) throws IOException {
        bag.requireOpens(description);
        try (PartStream stream = new PartStream(bag.folder().resolve("data"), description.parts(), bag.passphraseFor(description), watch,
            digesting)) {
            for (int row = 0; row < index.rows(); row++) {
                long first = index.firstChunk(row);
                long end = first + index.count(row);
                if (end <= fromChunk || wanted.bytesWithin(first * Chunks.BYTES, end * Chunks.BYTES) == 0) {
                    pass(stream, row);
                } else if (index.count(row) > 1) {
                    run(stream, row, handler);
                } else {
                    single(stream, row, handler);
                }
            }
            while (work.underWay() > 0) {
                idle.add(work.takeOldest());
            }
            stream.finish();
            return new Outcome(stream.digests(), stream.faults(), stream.readBytes());
        }
    }

    private Job free() throws IOException {
        if (idle.isEmpty()) {
            idle.add(work.takeOldest());
        }
        return idle.remove();
    }

    private void pass(PartStream stream, int row) throws IOException {
        Job job = free();
        for (long i = 0; i < index.count(row); i++) {
            stream.fill(job.stored, index.storedBytes(row));
        }
        tell(stream);
        idle.add(job);
    }

    private void single(PartStream stream, int row, Handler handler) throws IOException {
        Job job = free();
        int stored = index.storedBytes(row);
        Place place = Place.of(stream, description.parts(), stored);
        boolean there = stream.fill(job.stored, stored);
        tell(stream);
        int raw = index.rawBytes(row, description.disk().sizeBytes());
        work.submit(() -> {
            String fault = there ? decoded(job, stored, raw, index.crc(row)) : "it is not all there";
            handler.take(new Frame(index.firstChunk(row), 1, place.part, place.offset, stored, job.raw, raw, fault));
            return job;
        });
    }

    /** A row of equal frames: the first is decoded, the others must be the same bytes; each that is not becomes a frame of its own. */
    private void run(PartStream stream, int row, Handler handler) throws IOException {
        Job first = free();
        Job other = free();
        int stored = index.storedBytes(row);
        long from = index.firstChunk(row);
        long to = from + index.count(row);
        boolean known = false;
        for (long chunk = from; chunk < to; chunk++) {
            Place place = Place.of(stream, description.parts(), stored);
            Job job = known ? other : first;
            boolean there = stream.fill(job.stored, stored);
            if (chunk % 4096 == 0) {
                tell(stream);
            }
            if (known && there && Arrays.equals(first.stored, 0, stored, other.stored, 0, stored)) {
                continue;
            }
            String fault = there ? decoded(job, stored, Chunks.BYTES, index.crc(row)) : "it is not all there";
            known |= fault.isEmpty();
            if (!fault.isEmpty()) {
                handler.take(new Frame(chunk, 1, place.part, place.offset, stored, job.raw, Chunks.BYTES, fault));
            }
        }
        if (known) {
            handler.take(new Frame(from, to - from, -1, 0, (to - from) * stored, first.raw, Chunks.BYTES, ""));
        }
        idle.add(first);
        idle.add(other);
    }

    private static String decoded(Job job, int stored, int raw, int expected) throws IOException {
        try {
            job.coder.decode(job.stored, stored, job.raw, raw);
        } catch (BadFrameException broken) {
            return broken.getMessage();
        }
        int found = Chunks.crc(job.raw, raw);
        return found == expected ? "" : String.format(Locale.ROOT, "its bytes have the checksum %08x instead of %08x", found, expected);
    }

    private void tell(PartStream stream) throws IOException {
        watch.requireGoingOn(description.name());
        watch.advanced(new Progress(stage, stream.readBytes(), index.totalStoredBytes(), index.totalStoredBytes()));
    }

    /** Where the next frame begins: at a part's end, that is the start of the next one. */
    private record Place(int part, long offset) {
        static Place of(PartStream stream, List<ImageDescription.Part> parts, int stored) {
            boolean atEnd = stream.part() < parts.size() && stream.at() == parts.get(stream.part()).bytes();
            return atEnd ? new Place(stream.part() + 1, 0) : new Place(stream.part(), stream.at());
        }
    }

    @Override
    public void close() {
        work.close();
        jobs.forEach(Job::close);
    }
}
