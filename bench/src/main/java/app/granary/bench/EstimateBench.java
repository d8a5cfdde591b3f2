package app.granary.bench;

import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.sample.SizeSampler;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Size estimates of made-up disks against what all their chunks come to, compressed one by one as a capture does. */
final class EstimateBench {
    private static final int DISKS = 64;
    private static final long DISK_BYTES = 1L << 30;
    private static final int CHUNK = 1 << 20;
    private static final int LEVEL = 1;
    private static final int CORPUS = 48 << 20;

    private EstimateBench() {
    }

    /**
     * @param insideShare   of the disks, those whose size lay between low and high
     * @param medianError   of likely, as a share of the size
     * @param mostReadBytes read of any disk for its estimate
     */
    record Result(double insideShare, double medianError, long mostReadBytes) {
    }

    static Result run() throws IOException {
        byte[] text = corpus("/usr/share", CORPUS);
        byte[] programs = corpus("/usr/lib", CORPUS);
        int inside = 0;
        long most = 0;
        List<Double> errors = new ArrayList<>();
        for (int seed = 0; seed < DISKS; seed++) {
            MixedDisk disk = new MixedDisk(seed, DISK_BYTES, text, programs);
            DiskSurvey survey = DiskSurvey.of(disk, SurveyChoice.ALL_BLOCKS);
            SizeEstimate estimate = SizeSampler.sample(disk, survey, Codec.ZSTD, LEVEL, seed, SampleGoal.clearOf(List.of()), Watch.NONE)
                .size();
            long frames = IntStream.range(0, (int) (DISK_BYTES / CHUNK)).parallel().mapToLong(chunk -> stored(disk, chunk)).sum();
            long actual = frames + estimate.overheadBytes();
            inside += estimate.lowBytes() <= actual && actual <= estimate.highBytes() ? 1 : 0;
            errors.add(Math.abs(estimate.likelyBytes() - actual) / (double) actual);
            most = Math.max(most, estimate.sampledBytes());
        }
        return new Result(inside / (double) DISKS, errors.stream().sorted().toList().get(DISKS / 2), most);
    }

    private static long stored(MixedDisk disk, int chunk) {
        byte[] raw = new byte[CHUNK];
        disk.read((long) chunk * CHUNK, ByteBuffer.wrap(raw));
        try (FrameCoder coder = Codec.ZSTD.coder(LEVEL)) {
            return coder.encode(raw, CHUNK, new byte[Codec.ZSTD.maxFrameBytes(CHUNK)]);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
    }

    private static byte[] corpus(String folder, int bytes) throws IOException {
        List<Path> files;
        try (Stream<Path> walk = Files.walk(Path.of(folder))) {
            files = new ArrayList<>(walk.filter(Files::isRegularFile)
                .filter(f -> !Files.isSymbolicLink(f) && Files.isReadable(f) && f.toFile().length() < 4 << 20).sorted().toList());
        }
        java.util.Collections.shuffle(files, new Random(1));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (Path file : files) {
            if (out.size() >= bytes) {
                break;
            }
            out.write(Files.readAllBytes(file));
        }
        return out.toByteArray();
    }
}
