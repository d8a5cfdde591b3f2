package app.granary.bench;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;

/** Captures that are killed or lose their drive, and images that are harmed: what is left of them, and what is found. */
final class ProofBench {
    private static final Clock CLOCK = Clock.systemUTC();

    private final String granary;
    private final Path folder;
    private final Path disk;

    /** @param disk one that takes some seconds to capture */
    ProofBench(String granary, Path folder, Path disk) {
        this.granary = granary;
        this.folder = folder;
        this.disk = disk;
    }

    private static Path capture(Path disk, Path into, String name, long split, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED), new CaptureRequest(ImageName.parse(name), Codec.ZSTD, 3,
                split == 0 ? OptionalLong.empty() : OptionalLong.of(split), Passphrase.NONE,
                new DiskIdentity("raw image file", "", source.sizeBytes()), false), Files.createDirectories(into), CLOCK, watch)
                .bag();
        }
    }

    /** Thrown out of the work as a program is when its drive goes. */
    private static Watch losingItsDriveAt(double share) {
        return new Watch() {
            private double done;

            @Override
            public void advanced(Progress progress) {
                done = (double) progress.doneBytes() / Math.max(1, progress.totalBytes());
            }

            @Override
            public void requireGoingOn(String what) throws IOException {
                if (done >= share) {
                    throw new IOException("Input/output error");
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        };
    }

    /**
     * @return share of the disk's used bytes that every capture reads a second time at its end, to see that the disk did not change under
     *         it
     */
    double readAgainAtTheEnd() throws IOException {
        AtomicLong read = new AtomicLong();
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            Capture.run(new Counting(source, read), survey,
                new CaptureRequest(ImageName.parse("x"), Codec.ZSTD, 3, OptionalLong.empty(), Passphrase.NONE,
                    new DiskIdentity("raw image file", "", source.sizeBytes()), false),
                Files.createDirectories(folder.resolve("whole")), CLOCK, Watch.NONE);
            return Math.max(0, read.get() - survey.toRead().totalBytes()) / (double) survey.usedBytes();
        }
    }

    /**
     * @return share of the disk's used bytes that is read a second time when a capture is carried on that ended at 90 %, with what every
     *         capture reads again at its end
     */
    double readAgain() throws IOException {
        Path into = folder.resolve("ninety");
        try {
            capture(disk, into, "x", 0, losingItsDriveAt(0.9));
        } catch (FaultException lost) {
            // as asked
        }
        AtomicLong read = new AtomicLong();
        Unfinished left = Unfinished.open(into, ImageName.parse("x"));
        try (RawSource source = RawSource.open(disk)) {
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            long toCome = survey.toRead().bytesWithin(left.chunks() * (1L << 20), survey.sizeBytes());
            Capture.carryOn(new Counting(source, read), survey, new DiskIdentity("raw image file", "", source.sizeBytes()), left,
                Passphrase.NONE, CLOCK, Watch.NONE);
            return Math.max(0, read.get() - toCome) / (double) survey.usedBytes();
        }
    }

    /**
     * @return of {@code count} captures killed at random moments, how many ended in an image, or in something that could be carried on to
     *         one, and nothing else
     */
    int kills(int count) throws IOException, InterruptedException {
        SplittableRandom random = new SplittableRandom(4);
        int good = 0;
        for (int i = 0; i < count; i++) {
            Path into = Files.createDirectories(folder.resolve("kill-" + i));
            Process process = new ProcessBuilder(granary, "capture", "--name", "x", disk.toString(), into.toString())
                .redirectErrorStream(true).redirectOutput(ProcessBuilder.Redirect.DISCARD).start();
            process.waitFor(random.nextInt(800, 9_000), TimeUnit.MILLISECONDS);
            process.descendants().forEach(ProcessHandle::destroyForcibly);
            process.destroyForcibly().waitFor();
            good += comesToAnImage(into) ? 1 : 0;
            Tool.shell("rm -rf '" + into + "'");
        }
        return good;
    }

    /** @return the same for captures whose drive goes at random moments and loses what it had not written down */
    int unplugs(int count) throws IOException, InterruptedException {
        SplittableRandom random = new SplittableRandom(5);
        int good = 0;
        for (int i = 0; i < count; i++) {
            Path into = Files.createDirectories(folder.resolve("pulled-" + i));
            try {
                capture(disk, into, "x", i % 2 == 0 ? 0 : 50_000_000, losingItsDriveAt(random.nextDouble()));
            } catch (FaultException lost) {
                Path data = into.resolve("x.partial/data");
                if (Files.isDirectory(data)) {
                    Tool.shell("cd '" + data + "'; f=$(ls | tail -1); s=$(stat -c %s $f); truncate -s $(( s > 3000000 ? s - "
                        + random.nextInt(3_000_000) + " : s )) $f");
                }
            }
            good += comesToAnImage(into) ? 1 : 0;
            Tool.shell("rm -rf '" + into + "'");
        }
        return good;
    }

    private boolean comesToAnImage(Path into) throws IOException, InterruptedException {
        boolean named = Files.exists(into.resolve("x"));
        boolean partial = Files.exists(into.resolve("x.partial"));
        if (named && partial) {
            return false;
        }
        if (!named) {
            String how = Files.exists(into.resolve("x.partial.log")) && partial ? "--carry-on" : "--start-over";
            Tool.seconds(null, List.of(granary, "capture", how, "--name", "x", disk.toString(), into.toString()));
        }
        return Verification.run(Bag.open(into.resolve("x")), ProofLevel.READABLE, Watch.NONE).ok()
            && !Files.exists(into.resolve("x.partial"));
    }

    /**
     * @param count how many single bits are turned, one at a time, each turned back again
     * @return how many were found and placed to the chunk they lie in, and no other
     */
    int flips(Path small, int count) throws IOException {
        Path bag = capture(small, folder.resolve("flips"), "x", 300_000, Watch.NONE);
        ImageJson.Content content = Bag.open(bag).content();
        SplittableRandom random = new SplittableRandom(6);
        int found = 0;
        for (int i = 0; i < count; i++) {
            ImageDescription.Part part = content.description().parts().get(random.nextInt(content.description().parts().size()));
            long at = random.nextLong(part.bytes());
            int bit = 1 << random.nextInt(8);
            turn(bag.resolve("data").resolve(part.name()), at, bit);
            CheckOutcome outcome = Verification.run(Bag.open(bag), ProofLevel.SOUND, Watch.NONE);
            long chunk = chunkAt(content, part, at) * (1L << 20);
            // nothing but that chunk is said to be in doubt, or nothing at all where the bit stands for nothing; a frame that two parts
            // share is told with the first of them
            boolean placed = outcome.problems().stream()
                .allMatch(p -> p.diskStartBytes() == chunk && p.diskEndBytes() <= chunk + (1L << 20));
            boolean harmless = outcome.problems().stream()
                .allMatch(p -> p.part().equals("data/" + part.name()) && p.diskEndBytes() == p.diskStartBytes());
            found += !outcome.ok() && (placed || harmless) ? 1 : 0;
            turn(bag.resolve("data").resolve(part.name()), at, bit);
        }
        return found;
    }

    private static void turn(Path file, long at, int bit) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            ByteBuffer one = ByteBuffer.allocate(1);
            channel.read(one, at);
            channel.write(ByteBuffer.wrap(new byte[] {(byte) (one.get(0) ^ bit)}), at);
        }
    }

    private static long chunkAt(ImageJson.Content content, ImageDescription.Part part, long at) {
        long offset = at;
        for (ImageDescription.Part each : content.description().parts()) {
            if (each.name().equals(part.name())) {
                break;
            }
            offset += each.bytes();
        }
        FrameIndex index = content.index();
        for (int row = 0; row < index.rows(); row++) {
            long length = index.count(row) * index.storedBytes(row);
            if (offset < length) {
                return index.firstChunk(row) + offset / index.storedBytes(row);
            }
            offset -= length;
        }
        throw new IllegalStateException("past the end");
    }

    /** @return how many of {@code count} cuts, swaps, renames and extra files were found, in the part they were done to */
    int harms(Path small, int count) throws IOException, InterruptedException {
        Path bag = capture(small, folder.resolve("harms"), "x", 300_000, Watch.NONE);
        List<ImageDescription.Part> parts = Bag.open(bag).content().description().parts();
        Path data = bag.resolve("data");
        SplittableRandom random = new SplittableRandom(7);
        int found = 0;
        for (int i = 0; i < count; i++) {
            Path one = data.resolve(parts.get(random.nextInt(parts.size())).name());
            Path other = data.resolve(parts.get(random.nextInt(parts.size())).name());
            Path kept = folder.resolve("kept");
            Files.copy(one, kept, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
            Path extra = data.resolve("disk.img.zst.9" + i);
            String hit = "data/" + one.getFileName();
            int kind = one.equals(other) && i % 4 == 1 ? 0 : i % 4;
            switch (kind) {
                case 0 -> truncate(one, random.nextLong(Files.size(one)));
                case 1 -> swap(one, other);
                case 2 -> Files.move(one, extra);
                default -> {
                    Files.writeString(extra, "extra");
                    hit = "data/" + extra.getFileName();
                }
            }
            String part = hit;
            List<Problem> problems = Verification.run(Bag.open(bag), i % 2 == 0 ? ProofLevel.READABLE : ProofLevel.SOUND, Watch.NONE)
                .problems();
            found += problems.stream().anyMatch(p -> p.part().equals(part)) ? 1 : 0;
            if (kind == 1) {
                swap(one, other);
            } else {
                Files.deleteIfExists(extra);
                Files.copy(kept, one, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
            }
        }
        return found;
    }

    private static void truncate(Path file, long bytes) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
            channel.truncate(bytes);
        }
    }

    private static void swap(Path one, Path other) throws IOException {
        Path between = one.resolveSibling("between");
        Files.move(one, between);
        Files.move(other, one);
        Files.move(between, other);
    }
}
