package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** Every way a bag can come to harm is found, and named with its place. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DamageTest {
    @TempDir
    static Path folder;
    private Path bag;

    @BeforeAll
    void makeABag() throws IOException {
        bag = CaptureRoundTripTest.capture(Medium.GPT_EXT4_AND_FAT.make(folder), folder, "sound", Codec.ZSTD, 600_000, false).bag();
    }

    private CheckOutcome check(ProofLevel level) throws IOException {
        return Verification.run(Bag.open(bag), level, Watch.NONE);
    }

    @Test
    void aSoundBagIsSoundAtEveryDepth() throws IOException {
        for (ProofLevel level : List.of(ProofLevel.COMPLETE, ProofLevel.SOUND, ProofLevel.READABLE)) {
            assertEquals(List.of(), check(level).problems());
        }
    }

    /** Any single flipped bit in any file is found by digests and by frames, and a flip in a part is placed within it. */
    @Test
    void anyFlippedBitIsFoundAndPlaced() throws IOException {
        Random random = new Random(3);
        List<Path> files;
        try (Stream<Path> walk = Files.walk(bag)) {
            files = walk.filter(Files::isRegularFile).sorted().toList();
        }
        for (Path file : files) {
            String path = bag.relativize(file).toString();
            for (int round = 0; round < (path.contains("disk.img") ? 2 : 12); round++) {
                long at = (long) (random.nextDouble() * Files.size(file));
                int bit = 1 << random.nextInt(8);
                flip(file, at, bit);
                ProofLevel level = round % 2 == 0 ? ProofLevel.SOUND : ProofLevel.READABLE;
                CheckOutcome outcome = check(level);
                assertFalse(outcome.ok(), path + " byte " + at + " bit " + bit);
                Problem problem = outcome.problems().stream().filter(p -> p.part().equals(path)).findFirst()
                    .orElse(outcome.problems().get(0));
                if (path.contains("disk.img")) {
                    assertEquals(1, outcome.problems().size(), () -> outcome.problems().toString());
                    assertTrue(problem.offsetBytes() <= at && at < problem.offsetBytes() + problem.lengthBytes(),
                        problem + " for byte " + at);
                    assertFalse(problem.partition().isEmpty());
                }
                flip(file, at, bit);
            }
        }
        assertTrue(check(ProofLevel.READABLE).ok());
    }

    /** Parts shorter than a frame: a byte turned in the middle of one puts that chunk in doubt, and not the whole part. */
    @Test
    void damageInAFrameThatSeveralPartsShareIsItsChunkOnly() throws IOException {
        Path small = CaptureRoundTripTest.capture(folder.resolve("gpt_ext4_and_fat.img"), folder, "short-parts", Codec.ZSTD, 65_536, false)
            .bag();
        List<ImageDescription.Part> parts = Bag.open(small).content().description().parts();
        for (int part = 3; part < parts.size() - 1; part += 7) {
            Path file = small.resolve("data").resolve(parts.get(part).name());
            flip(file, Files.size(file) / 2, 8);
            for (ProofLevel level : List.of(ProofLevel.SOUND, ProofLevel.READABLE)) {
                List<Problem> problems = Verification.run(Bag.open(small), level, Watch.NONE).problems();
                assertEquals(1, problems.size(), problems::toString);
                assertTrue(problems.get(0).diskEndBytes() - problems.get(0).diskStartBytes() <= 1 << 20, problems::toString);
            }
            flip(file, Files.size(file) / 2, 8);
        }
    }

    private static void flip(Path file, long at, int bit) throws IOException {
        try (RandomAccessFile raw = new RandomAccessFile(file.toFile(), "rw")) {
            raw.seek(at);
            int was = raw.read();
            raw.seek(at);
            raw.write(was ^ bit);
        }
    }

    private void after(String harm, ProofLevel level, String part, String message) throws IOException {
        Tools.run(folder, "cp -a sound kept; cd sound; " + harm);
        try {
            CheckOutcome outcome = check(level);
            assertTrue(outcome.problems().stream().anyMatch(p -> p.part().equals(part) && p.message().contains(message)),
                () -> harm + ": " + outcome.problems());
        } finally {
            Tools.run(folder, "rm -rf sound; mv kept sound");
        }
    }

    @Test
    void lostShortLongRenamedSwappedAndExtraPartsAreFound() throws IOException {
        String first = "data/disk.img.zst.000";
        String second = "data/disk.img.zst.001";
        after("rm " + second, ProofLevel.COMPLETE, second, "is missing. It holds bytes");
        after("truncate -s -1000 " + first, ProofLevel.COMPLETE, first, "is cut short");
        after("echo more >> " + first, ProofLevel.COMPLETE, first, "5 bytes longer than it should be");
        after("mv " + first + " data/disk.img.zst.900", ProofLevel.COMPLETE, "data/disk.img.zst.900", "does not belong to this image");
        after("mv " + first + " x; mv " + second + " " + first + "; mv x " + second, ProofLevel.SOUND, first, "is damaged from byte 0 on");
        after("mv " + first + " x; mv " + second + " " + first + "; mv x " + second, ProofLevel.READABLE, second,
            "is damaged from byte 0 on");
        after("echo hello > data/notes.txt", ProofLevel.COMPLETE, "data/notes.txt", "no manifest lists it");
        after("ln -s /etc/passwd data/link", ProofLevel.COMPLETE, "data/link", "no manifest lists it");
        after("rm data/image.json", ProofLevel.COMPLETE, "data/image.json", "is missing");
        after("rm manifest-sha256.txt", ProofLevel.COMPLETE, "manifest-sha256.txt", "is missing");
        after("rm tagmanifest-sha256.txt", ProofLevel.SOUND, "tagmanifest-sha256.txt", "is missing");
        after("truncate -s 0 manifest-sha256.txt", ProofLevel.COMPLETE, "manifest-sha256.txt", "does not end with a whole line");
        after("sed -i 's/\"sizeBytes\":/\"sizeBytes\":9/' data/image.json", ProofLevel.COMPLETE, "data/image.json", "cannot be used");
        after("sed -i 's#disk.img.zst.000#../disk.img.zst.000#' data/image.json", ProofLevel.COMPLETE, "data/image.json",
            "impossible name");
    }

    @Test
    void aDamagedImageIsNotRestoredUnderAFinalName() throws IOException {
        Path part = bag.resolve("data/disk.img.zst.001");
        flip(part, 5000, 4);
        try {
            Path target = folder.resolve("never.img");
            FaultException fault = assertThrows(FaultException.class, () -> Restore.toFile(Bag.open(bag), target, Watch.NONE));
            assertTrue(fault.getMessage().contains("The restore was not completed"), fault.getMessage());
            assertFalse(Files.exists(target));
            assertFalse(Files.exists(folder.resolve("never.img.partial")));
        } finally {
            flip(part, 5000, 4);
        }
    }

    @Test
    void whatIsNoImageIsSaidToBeNone() {
        assertTrue(assertThrows(FaultException.class, () -> Bag.open(folder.resolve("nowhere"))).getMessage()
            .contains("There is no image folder"));
        assertTrue(assertThrows(FaultException.class, () -> Bag.open(folder)).getMessage().contains("is no image"));
    }
}
