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
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.SplittableRandom;
import java.util.concurrent.ConcurrentLinkedQueue;

/** Estimates an image's size: a stratified random sample of the used chunks, stored with the codec and level that will be used. */
public final class SizeSampler {
    /** Measured in bench/: at 80 chunks the interval is about 10 % either side, and the estimate costs well under a tenth of a capture. */
    private static final int SAMPLE = 80;
    /** Fewer give no variance worth the name. */
    private static final int SMALLEST = 4;
    /** A row of the index is at most about this long, see ImageJson; runs of equal frames share one. */
    private static final int ROW_BYTES = 46;
    /** bag-info, manifests, description, first sector, table dump: what does not grow with the disk, at least and at most. */
    private static final int FIXED_LEAST = 1_400;
    private static final int FIXED_MOST = 3_000;
    /** A partition in the description and in the table dump, names and reasons included. */
    private static final int PARTITION_BYTES = 600;

    private SizeSampler() {
    }

    /** @param seed decides which chunks are drawn; the same seed draws the same ones */
    public static SizeEstimate estimate(BlockSource source, DiskSurvey survey, Codec codec, int level, long seed, Watch watch) throws IOException {
        ChunkReader reader = new ChunkReader(source, survey.toRead());
        ChunkGroups groups = new ChunkGroups(survey, reader);
        long dataChunks = Chunks.count(survey.sizeBytes()) - groups.zeroChunks();
        long mostIndex = FIXED_MOST + (long) PARTITION_BYTES * survey.partitions().size() + ROW_BYTES * (dataChunks + groups.zeroRuns());
        if (codec == Codec.NONE) {
            return SizeEstimate.exact(survey.usedBytes(), survey.sizeBytes(), new SizeEstimate.Overhead(0, FIXED_LEAST, mostIndex));
        }
        long empty = groups.zeroChunks() * ZeroFrame.of(codec, level, Chunks.BYTES).frame().length;
        SizeEstimate.Overhead overhead = new SizeEstimate.Overhead(empty, FIXED_LEAST, mostIndex);
        List<Stratum> strata = new ArrayList<>();
        long sampledBytes = 0;
        SplittableRandom random = new SplittableRandom(seed);
        List<Drawn> drawn = new ArrayList<>();
        for (Map.Entry<String, ChunkGroups.Group> entry : groups.groups().entrySet()) {
            ChunkGroups.Group group = entry.getValue();
            int wanted = (int) Math.round((double) SAMPLE * group.contentBytes / Math.max(1, survey.usedBytes()));
            int size = dataChunks <= SAMPLE ? (int) group.count : (int) Math.min(group.count, Math.max(SMALLEST, wanted));
            drawn.add(new Drawn(entry.getKey(), group.count, draw(group.chunks.build().toArray(), size, random)));
        }
        Queue<Bench> idle = new ConcurrentLinkedQueue<>();
        try (OrderedWork<Long> work = new OrderedWork<>("granary-sample")) {
            for (Drawn each : drawn) {
                strata.add(new Stratum(each.name, each.population, stored(each.chunks, work, idle, reader, codec, level, watch)));
                for (long chunk : each.chunks) {
                    sampledBytes += reader.contentBytes(chunk);
                }
            }
        }
        idle.forEach(bench -> bench.coder.close());
        return SizeEstimate.of(strata, survey.usedBytes(), sampledBytes, overhead);
    }

    private record Drawn(String name, long population, long[] chunks) {
    }

    /** Simple random sample without replacement: the first {@code size} steps of a shuffle, then in disk order for the drive's sake. */
    private static long[] draw(long[] chunks, int size, SplittableRandom random) {
        long[] out = new long[size];
        for (int i = 0; i < size; i++) {
            int j = random.nextInt(i, chunks.length);
            out[i] = chunks[j];
            chunks[j] = chunks[i];
        }
        java.util.Arrays.sort(out);
        return out;
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

    private static List<Long> stored(long[] chunks, OrderedWork<Long> work, Queue<Bench> idle, ChunkReader reader, Codec codec, int level, Watch watch)
        throws IOException {
        List<Long> out = new ArrayList<>();
        for (long chunk : chunks) {
            watch.requireGoingOn("the sample");
            if (work.underWay() == work.slots()) {
                out.add(work.takeOldest());
            }
            work.submit(() -> {
                Bench bench = Optional.ofNullable(idle.poll()).orElseGet(() -> new Bench(codec, level));
                long stored = bench.coder.encode(bench.raw, reader.read(chunk, bench.raw), bench.frame);
                idle.add(bench);
                return stored;
            });
        }
        while (work.underWay() > 0) {
            out.add(work.takeOldest());
        }
        return out;
    }
}
