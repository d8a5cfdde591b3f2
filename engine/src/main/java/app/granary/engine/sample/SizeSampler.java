package app.granary.engine.sample;

import app.granary.core.disk.BlockSource;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.Stratum;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.engine.capture.ChunkReader;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.codec.ZeroFrame;
import app.granary.engine.progress.OrderedWork;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Queue;
import java.util.SplittableRandom;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.LongAdder;

/**
 * Estimates an image's size: a stratified random sample of the used chunks, stored with the codec and level that will be used. It is drawn
 * in rounds, and ends when the goal is reached.
 */
public final class SizeSampler {
    /** Chunks drawn in the first round; each later one draws as many as all before it. */
    private static final int FIRST = 20;
    /** A sample a person does not end early has this many at least; a disk with no more is counted whole. */
    private static final int LEAST = 80;
    /** Fewer give no variance worth the name. */
    private static final int SMALLEST = 4;
    /** A row of the index is at most about this long, see ImageJson; runs of equal frames share one. */
    private static final int ROW_BYTES = 46;
    /** bag-info, manifests, description, first sector, table dump: what does not grow with the disk, at least and at most. */
    private static final int FIXED_LEAST = 1_400;
    private static final int FIXED_MOST = 3_000;
    /** A partition in the description and in the table dump, names and reasons included. */
    private static final int PARTITION_BYTES = 600;

    /** Without compression nothing but memory holds the work up. */
    private static final long COPY_RATE = 2_000_000_000L;
    private static final ThreadMXBean CPU = ManagementFactory.getThreadMXBean();

    private SizeSampler() {
    }

    /** For a first figure. */
    public static SizeEstimate estimate(BlockSource source, DiskSurvey survey, Codec codec, int level, long seed, Watch watch)
        throws IOException {
        return sample(source, survey, codec, level, seed, SampleGoal.QUICK, watch).size();
    }

    /**
     * @param seed  decides which chunks are drawn; the same seed draws the same ones
     * @param watch told after every round; when it asks to stop, what was drawn so far has to do
     */
    public static Sample sample(BlockSource source, DiskSurvey survey, Codec codec, int level, long seed, SampleGoal goal, Watch watch)
        throws IOException {
        ChunkReader reader = new ChunkReader(source, survey.toRead());
        ChunkGroups groups = new ChunkGroups(survey, reader);
        long dataChunks = Chunks.count(survey.sizeBytes()) - groups.zeroChunks();
        long mostIndex = FIXED_MOST + (long) PARTITION_BYTES * survey.partitions().size() + ROW_BYTES * (dataChunks + groups.zeroRuns());
        if (codec == Codec.NONE) {
            SizeEstimate.Overhead none = new SizeEstimate.Overhead(0, FIXED_LEAST, mostIndex);
            return new Sample(SizeEstimate.exact(survey.usedBytes(), survey.sizeBytes(), none), COPY_RATE);
        }
        long empty = groups.zeroChunks() * ZeroFrame.of(codec, level, Chunks.BYTES).frame().length;
        SizeEstimate.Overhead overhead = new SizeEstimate.Overhead(empty, FIXED_LEAST, mostIndex);
        List<Drawing> drawings = drawings(groups, survey);
        Rates rates = new Rates();
        SplittableRandom random = new SplittableRandom(seed);
        Queue<Bench> idle = new ConcurrentLinkedQueue<>();
        SizeEstimate estimate;
        try (OrderedWork<Long> work = new OrderedWork<>("granary-sample")) {
            int wanted = FIRST;
            while (true) {
                boolean whole = dataChunks <= LEAST;
                for (Drawing each : drawings) {
                    each.draw(whole ? Integer.MAX_VALUE : Math.max(SMALLEST, (int) Math.round(wanted * each.share)), random);
                    each.store(work, idle, reader, codec, level, rates);
                }
                estimate = SizeEstimate.of(drawings.stream().map(Drawing::stratum).toList(), survey.usedBytes(), rates.contentBytes.sum(),
                    overhead);
                long read = rates.contentBytes.sum();
                watch.advanced(new Progress(Progress.Stage.SAMPLING, read, Math.max(read, goal.budgetBytes()), 0));
                boolean enough = wanted >= LEAST && (goal.reached(estimate) || read >= goal.budgetBytes());
                long most = Math.max(LEAST, goal.budgetBytes() / Chunks.BYTES); // the last round fills the budget, no more
                if (whole || enough || wanted >= most || watch.stopRequested() || drawings.stream().allMatch(Drawing::exhausted)) {
                    break;
                }
                wanted = (int) Math.min(2L * wanted, most);
            }
        }
        idle.forEach(bench -> bench.coder.close());
        return new Sample(estimate, rates.perSecond());
    }

    private static List<Drawing> drawings(ChunkGroups groups, DiskSurvey survey) throws IOException {
        List<Drawing> out = new ArrayList<>();
        groups.groups().forEach((name, group) -> out
            .add(new Drawing(name, group.chunks.build().toArray(), (double) group.contentBytes / Math.max(1, survey.usedBytes()))));
        return out;
    }

    /** Content bytes compressed and the processor time that took. */
    private static final class Rates {
        final LongAdder contentBytes = new LongAdder();
        final LongAdder nanos = new LongAdder();

        long perSecond() {
            return Math.max(1, (long) (contentBytes.sum() * 1e9 / Math.max(1, nanos.sum()) * Runtime.getRuntime().availableProcessors()));
        }
    }

    /** A group of chunks being drawn from, simple at random without replacement: a shuffle, as far as it was needed. */
    private static final class Drawing {
        final String name;
        final long[] chunks;
        final double share;
        final List<Long> stored = new ArrayList<>();
        int drawn;

        Drawing(String name, long[] chunks, double share) {
            this.name = name;
            this.chunks = chunks;
            this.share = share;
        }

        boolean exhausted() {
            return drawn == chunks.length;
        }

        void draw(int size, SplittableRandom random) {
            while (drawn < Math.min(size, chunks.length)) {
                int j = random.nextInt(drawn, chunks.length);
                long chunk = chunks[j];
                chunks[j] = chunks[drawn];
                chunks[drawn++] = chunk;
            }
        }

        Stratum stratum() {
            return new Stratum(name, chunks.length, stored);
        }

        /** Compresses what was drawn last, in disk order for the drive's sake. */
        void store(OrderedWork<Long> work, Queue<Bench> idle, ChunkReader reader, Codec codec, int level, Rates rates) throws IOException {
            long[] fresh = Arrays.copyOfRange(chunks, stored.size(), drawn);
            Arrays.sort(fresh);
            for (long chunk : fresh) {
                if (work.underWay() == work.slots()) {
                    stored.add(work.takeOldest());
                }
                work.submit(() -> {
                    Bench bench = Optional.ofNullable(idle.poll()).orElseGet(() -> new Bench(codec, level));
                    int length = reader.read(chunk, bench.raw, new ArrayList<>());
                    long began = CPU.getCurrentThreadCpuTime();
                    long frame = bench.coder.encode(bench.raw, length, bench.frame);
                    rates.nanos.add(CPU.getCurrentThreadCpuTime() - began);
                    rates.contentBytes.add(reader.contentBytes(chunk));
                    idle.add(bench);
                    return frame;
                });
            }
            while (work.underWay() > 0) {
                stored.add(work.takeOldest());
            }
        }
    }

    /** A coder with its buffers, used by one thread at a time and by all in turn. */
    private static final class Bench {
        final FrameCoder coder;
        final byte[] raw = new byte[Chunks.BYTES];
        final byte[] frame;

        Bench(Codec codec, int level) {
            coder = codec.coder(level);
            frame = new byte[codec.maxFrameBytes(Chunks.BYTES)];
        }
    }
}
