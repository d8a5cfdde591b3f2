package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.util.OptionalLong;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Images and logs that someone made to do harm: nothing leaves the folder, nothing grows, nothing passes for sound. */
class HostileImageTest {
    @TempDir
    Path folder;
    private Path bag;

    @BeforeEach
    void image() throws IOException {
        Path disk = Medium.MBR_FAT12.make(folder);
        try (RawSource source = RawSource.open(disk)) {
            bag = Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse("image"), Codec.ZSTD, 3, OptionalLong.empty(), Passphrase.NONE,
                    new DiskIdentity("m", "s", source.sizeBytes()), true),
                folder, Clock.systemUTC(), Watch.NONE).bag();
        }
    }

    private CheckOutcome check() throws IOException {
        return check(ProofLevel.READABLE);
    }

    private CheckOutcome check(ProofLevel level) throws IOException {
        return Verification.run(Bag.open(bag), level, Watch.NONE);
    }

    private void refusedToRestore() {
        assertThrows(FaultException.class, () -> Restore.toFile(Bag.open(bag), folder.resolve("back.img"), Watch.NONE));
        assertFalse(Files.exists(folder.resolve("back.img")));
    }

    /**
     * A frame header that claims 2^60 bytes of content (RFC 8878, section 3.1.1.1.1: descriptor 0xE0 is an 8-byte content size in a single
     * segment).
     */
    @Test
    void aFrameThatClaimsAnExabyteIsRefusedUnallocated() throws IOException {
        ByteBuffer frame = ByteBuffer.allocate(13).order(ByteOrder.LITTLE_ENDIAN).putInt(0xFD2FB528).put((byte) 0xE0).putLong(1L << 60)
            .flip();
        try (FileChannel part = FileChannel.open(bag.resolve("data/disk.img.zst.000"), StandardOpenOption.WRITE)) {
            part.write(frame, 0);
        }
        CheckOutcome outcome = check();
        assertEquals("data/disk.img.zst.000", outcome.problems().get(0).part());
        assertEquals(0, outcome.problems().get(0).diskStartBytes());
        refusedToRestore();
    }

    @Test
    void aPartReplacedByALinkOutOfTheFolderIsNotFollowed() throws IOException {
        Tools.run(bag, "mv data/disk.img.zst.000 ../elsewhere; ln -s ../../elsewhere data/disk.img.zst.000");
        CheckOutcome outcome = check();
        assertTrue(outcome.problems().stream().anyMatch(p -> p.part().equals("data/disk.img.zst.000")), outcome.problems().toString());
        refusedToRestore();
    }

    @Test
    void aManifestThatLeadsOutOfTheFolderIsDamaged() throws IOException {
        for (String path : new String[] {"../precious", "/etc/passwd", "data/../../precious", "data//x/../../../etc/passwd", "-data/x"}) {
            Files.writeString(bag.resolve("manifest-sha256.txt"), "0".repeat(64) + "  " + path + "\n");
            CheckOutcome outcome = check(ProofLevel.SOUND);
            assertTrue(outcome.problems().stream().anyMatch(p -> p.message().contains("line 1 is no digest and path")),
                path + ": " + outcome.problems());
        }
    }

    /** A copy of the log that some later text follows: each line is bounded, numbers are checked, nothing is trusted. */
    @Test
    void aLogOfRandomBytesIsReadToItsFirstNonsenseAndNoFurther() throws IOException {
        Path partial = Files.createDirectories(folder.resolve("night.partial/data")).getParent();
        Path log = folder.resolve("night.partial.log");
        Begun begun = new Begun("2026-11-24T02:14:00Z", new DiskIdentity("Halden \"S2\"", "22-HS", 1 << 20),
            new SurveyChoice(false, true, Set.of(3, 1)), "ab", 77, Codec.XZ, 3,
            OptionalLong.of(70_000), true);
        Files.writeString(log, begun.line() + "\nf 500 7 9\nz 3 60 5\np 680 700\ns 560\nb 4096 512\n");
        Unfinished read = Unfinished.open(folder, ImageName.parse("night"));
        assertEquals(begun, read.begun());
        assertEquals(4, read.chunks());
        SplittableRandom random = new SplittableRandom(4);
        byte[] whole = Files.readAllBytes(log);
        for (int round = 0; round < 400; round++) {
            byte[] changed = whole.clone();
            for (int i = random.nextInt(6); i >= 0; i--) {
                changed[random.nextInt(changed.length)] = (byte) random.nextInt();
            }
            Files.write(log, round % 3 == 0 ? java.util.Arrays.copyOf(changed, random.nextInt(changed.length)) : changed);
            try {
                Unfinished.open(folder, ImageName.parse("night")).chunks();
            } catch (FaultException refused) {
                assertFalse(refused.getMessage().isEmpty());
            }
        }
        for (String line : new String[] {"f -5 1 1", "z 9223372036854775807 9 1", "b 5 0", "p x y", "q 1", "f 1", "s"}) {
            Files.writeString(log, begun.line() + "\nf 500 7 9\n" + line + "\nf 500 7 9\n");
            assertTrue(Unfinished.open(folder, ImageName.parse("night")).chunks() == 1 || line.startsWith("s"), line);
        }
        Files.writeString(log, "{\"capture\":99}\n");
        assertThrows(FaultException.class, () -> Unfinished.open(folder, ImageName.parse("night")));
        assertTrue(Unfinished.in(folder).isEmpty(), "what cannot be read cannot be carried on");
        Files.writeString(log, begun.line() + "\n");
        assertTrue(Unfinished.discard(folder, ImageName.parse("night")));
        assertFalse(Files.exists(partial) || Files.exists(log));
    }

    @Test
    void namesThatDifferOnlyInCapitalsAreTheSame() {
        FaultException taken = assertThrows(FaultException.class,
            () -> BagWriter.create(folder, ImageName.parse("IMAGE"),
                new Begun("", new DiskIdentity("m", "s", 1 << 20), SurveyChoice.USED, "",
                    0, Codec.ZSTD, 3, OptionalLong.empty(), false),
                Passphrase.NONE, false));
        assertTrue(taken.getMessage().contains("one that differs only in capitals is the same on some drives"), taken.getMessage());
    }
}
