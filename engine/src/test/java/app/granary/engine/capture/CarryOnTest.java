package app.granary.engine.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a killed capture leaves is carried on to the very image an undisturbed capture makes, or refused with the reason. */
class CarryOnTest {
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2026-11-24T02:14:00Z"), ZoneOffset.UTC);
    private static final Passphrase SECRET = Passphrase.of("quiet heron 7".toCharArray());

    @TempDir
    Path folder;
    private Path disk;

    @BeforeEach
    void makeDisk() {
        disk = Medium.GPT_EXT4_AND_FAT.make(folder);
    }

    private static DiskIdentity identity(BlockSource source) {
        return new DiskIdentity("Halden S2", "22-HS-1", source.sizeBytes());
    }

    private CaptureResult capture(Path into, Codec codec, long split, Passphrase passphrase, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse("night"), codec, codec.usualLevel(),
                    split == 0 ? OptionalLong.empty() : OptionalLong.of(split), passphrase, identity(source), "before\nthe move", true),
                Files.createDirectories(into), CLOCK, watch);
        }
    }

    private static CaptureResult carryOn(BlockSource source, Path into, Passphrase passphrase) throws IOException {
        return Capture.carryOn(source, DiskSurvey.of(source, SurveyChoice.USED), identity(source),
            Unfinished.open(into, ImageName.parse("night")), passphrase, CLOCK, Watch.NONE);
    }

    @ParameterizedTest
    @CsvSource({"ZSTD, 0", "ZSTD, 300000", "ZSTD, 65536", "GZIP, 1500000", "XZ, 0", "NONE, 10000000"})
    void aKilledCaptureIsCarriedOnToTheSameImage(Codec codec, long split) throws IOException {
        Path whole = folder.resolve("whole");
        capture(whole, codec, split, Passphrase.NONE, Watch.NONE);
        // RFC 8493, section 2.2.2; a line of the comment must not pass for an element of its own
        assertEquals("Internal-Sender-Description: before the move\n", Tools.run(whole, "grep -A1 ^Internal night/bag-info.txt | head -1"));
        SplittableRandom random = new SplittableRandom(5);
        for (double share : new double[] {0.02, 0.4, 0.9, 1}) {
            Path left = folder.resolve("left-" + share);
            Moments moment = new Moments(folder.resolve("again"), left, share < 1 ? Progress.Stage.CAPTURING : Progress.Stage.CHECKING,
                share < 1 ? share : 0.5);
            capture(folder.resolve("again"), codec, split, Passphrase.NONE, moment);
            assertTrue(moment.done());
            Tools.run(folder, "rm -r again");
            // what the machine's end takes with it: the last bytes of the last part, and of the log
            if (random.nextBoolean()) {
                Tools.run(left.resolve("night.partial/data"),
                    "f=$(ls disk.img* | tail -1); s=$(stat -c %s $f); truncate -s $(( s > 70000 ? s - " + random.nextInt(70_000)
                        + " : s )) $f");
            } else {
                Tools.run(left, "printf 'f 12' >> night.partial.log");
            }
            assertEquals(List.of("night"), Unfinished.in(left).stream().map(u -> u.name().text()).toList());
            assertThrows(FaultException.class, () -> Bag.open(left.resolve("night.partial")), "it is no image");
            try (RawSource source = RawSource.open(disk)) {
                assertTrue(carryOn(source, left, Passphrase.NONE).check().orElseThrow().ok());
            }
            assertEquals("", Tools.run(folder, "diff -r whole/night " + left + "/night"), codec + " carried on at " + share);
            assertEquals("night", Tools.run(left, "ls").strip());
        }
    }

    @Test
    void whatNeverCameToTheDeviceIsMadeAgain() throws IOException {
        capture(folder.resolve("whole"), Codec.ZSTD, 0, Passphrase.NONE, Watch.NONE);
        Path left = folder.resolve("left");
        capture(folder.resolve("again"), Codec.ZSTD, 0, Passphrase.NONE,
            new Moments(folder.resolve("again"), left, Progress.Stage.CAPTURING, 0.8));
        // after a power cut the file is as long as it was, and holds zeros where nothing had been written yet
        Tools.run(left.resolve("night.partial/data"),
            "s=$(stat -c %s disk.img.zst.000); dd if=/dev/zero of=disk.img.zst.000 bs=1000 seek=$((s / 2000)) count=$((s / 2000)) "
                + "conv=notrunc 2>&1");
        try (RawSource source = RawSource.open(disk)) {
            carryOn(source, left, Passphrase.NONE);
        }
        assertEquals("", Tools.run(folder, "diff -r whole/night left/night"));
    }

    @Test
    void littleIsReadAgain() throws IOException {
        Path left = folder.resolve("left");
        capture(folder.resolve("again"), Codec.ZSTD, 0, Passphrase.NONE,
            new Moments(folder.resolve("again"), left, Progress.Stage.CAPTURING, 0.9));
        AtomicLong read = new AtomicLong();
        try (RawSource source = RawSource.open(disk); BlockSource counting = new CountingSource(source, read)) {
            long used = DiskSurvey.of(counting, SurveyChoice.USED).usedBytes();
            long surveying = read.getAndSet(0);
            Unfinished unfinished = Unfinished.open(left, ImageName.parse("night"));
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            CaptureResult made = Capture.carryOn(counting, survey, identity(source), unfinished, Passphrase.NONE, CLOCK, Watch.NONE);
            assertTrue(made.check().orElseThrow().ok());
            // every chunk of this small disk is in the sample that is compared before and after; of a large one it is a few, and the bench
            // has the figure
            assertTrue(read.get() <= 2 * used + surveying + 2 * 512, read + " bytes read to finish " + used);
        }
    }

    @Test
    void anEncryptedOneIsCarriedOnFromItsLastWholePart() throws IOException {
        Path left = folder.resolve("left");
        capture(folder.resolve("again"), Codec.ZSTD, 1_000_000, SECRET,
            new Moments(folder.resolve("again"), left, Progress.Stage.CAPTURING, 0.9));
        String before = Tools.run(left.resolve("night.partial/data"), "sha256sum disk.img.zst.000.gpg");
        try (RawSource source = RawSource.open(disk)) {
            assertEquals(Fault.Kind.LOCKED,
                assertThrows(FaultException.class, () -> carryOn(source, left, Passphrase.NONE)).fault().kind());
            FaultException wrong = assertThrows(FaultException.class, () -> carryOn(source, left, Passphrase.of("no".toCharArray())));
            assertTrue(wrong.getMessage().contains("does not open"), wrong.getMessage());
            assertTrue(carryOn(source, left, SECRET).check().orElseThrow().ok());
        }
        assertEquals(before, Tools.run(left.resolve("night/data"), "sha256sum disk.img.zst.000.gpg"), "parts that were whole are kept");
    }

    @Test
    void anotherDiskOrAnotherStateOfItIsRefusedAndNothingChanged() throws IOException {
        Path left = folder.resolve("left");
        capture(folder.resolve("again"), Codec.ZSTD, 300_000, Passphrase.NONE,
            new Moments(folder.resolve("again"), left, Progress.Stage.CAPTURING, 0.6));
        String before = Tools.run(left, "find . -type f | sort | xargs sha256sum");
        try (RawSource source = RawSource.open(disk)) {
            FaultException other = assertThrows(FaultException.class,
                () -> Capture.carryOn(source, DiskSurvey.of(source, SurveyChoice.USED), new DiskIdentity("Halden S2", "22-HS-2",
                    source.sizeBytes()), Unfinished.open(left, ImageName.parse("night")), Passphrase.NONE, CLOCK, Watch.NONE));
            assertTrue(other.getMessage().contains("22-HS-1") && other.getMessage().contains("22-HS-2"), other.getMessage());
        }
        Tools.run(folder, "debugfs -w -R 'set_super_value mnt_count 7' '" + disk + "?offset=" + 41 * (1L << 20) + "' 2>&1");
        try (RawSource source = RawSource.open(disk)) {
            FaultException changed = assertThrows(FaultException.class, () -> carryOn(source, left, Passphrase.NONE), "mounted in between");
            assertTrue(changed.getMessage().contains("the disk has changed since"), changed.getMessage());
        }
        assertEquals(before, Tools.run(left, "find . -type f | sort | xargs sha256sum"));
        FaultException taken = assertThrows(FaultException.class, () -> capture(left, Codec.ZSTD, 0, Passphrase.NONE, Watch.NONE));
        assertTrue(taken.getMessage().contains("There is an unfinished capture"), taken.getMessage());
        assertTrue(Unfinished.discard(left, ImageName.parse("night")));
        assertEquals("", Tools.run(left, "ls"));
    }

    @Test
    void aLogOfNonsenseIsNeverCarriedOn() throws IOException {
        Path left = folder.resolve("left");
        capture(folder.resolve("again"), Codec.ZSTD, 300_000, Passphrase.NONE,
            new Moments(folder.resolve("again"), left, Progress.Stage.CAPTURING, 0.7));
        capture(folder.resolve("whole"), Codec.ZSTD, 300_000, Passphrase.NONE, Watch.NONE);
        byte[] log = Files.readAllBytes(left.resolve("night.partial.log"));
        SplittableRandom random = new SplittableRandom(11);
        int carriedOn = 0;
        for (int round = 0; round < 60; round++) {
            byte[] changed = log.clone();
            int from = round % 3 == 0 ? 0 : log.length / 2;
            changed[from + random.nextInt(log.length - from)] ^= (byte) (1 << random.nextInt(8));
            Path copy = folder.resolve("round");
            Tools.run(folder, "rm -rf round; cp -r left round");
            Files.write(copy.resolve("night.partial.log"), changed);
            try (RawSource source = RawSource.open(disk)) {
                assertTrue(carryOn(source, copy, Passphrase.NONE).check().orElseThrow().ok());
                carriedOn++;
                assertEquals("",
                    Tools.run(folder, "cat whole/night/data/disk.img* > a; cat round/night/data/disk.img* > b; cmp a b; rm a b"));
            } catch (FaultException refused) {
                assertFalse(Files.exists(copy.resolve("night")), refused.getMessage());
            }
        }
        assertTrue(carriedOn > 8, carriedOn + " of 60 carried on");
    }

    /** Counts bytes read. */
    private static final class CountingSource extends SourceOver {
        private final AtomicLong read;

        CountingSource(BlockSource source, AtomicLong read) {
            super(source);
            this.read = read;
        }

        @Override
        public void read(long offsetBytes, ByteBuffer into) throws IOException {
            read.addAndGet(into.remaining());
            source.read(offsetBytes, into);
        }

        @Override
        public void close() {
        }
    }
}
