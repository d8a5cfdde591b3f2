package app.granary.engine.openpgp;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Storage;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Encrypted images against gpg, and against harm. */
class EncryptedImageTest {
    private static final String TEXT = "späte Ähre 12";
    private static final Passphrase SECRET = Passphrase.of(TEXT.toCharArray());

    @TempDir
    Path folder;

    /** What it weighs lies within its estimate: key, headers and packet pieces of every part were not counted. */
    private Path capture(Codec codec, long split) throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        OptionalLong parts = split == 0 ? OptionalLong.empty() : OptionalLong.of(split);
        try (RawSource source = RawSource.open(disk)) {
            SizeEstimate estimate = ImageWork.estimate(source, new Storage(codec, codec.usualLevel(), parts, SurveyChoice.USED),
                codec == Codec.XZ ? new SampleGoal(List.of(), 1, 0) : SampleGoal.clearOf(List.of()), Watch.NONE).encryptedSize();
            CaptureResult made = Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse("secret"), codec, codec.usualLevel(), parts, SECRET,
                    new DiskIdentity("m", "s", source.sizeBytes()), true),
                folder, Clock.systemUTC(), Watch.NONE);
            assertTrue(codec == Codec.XZ || estimate.lowBytes() <= made.storedBytes() && made.storedBytes() <= estimate.highBytes(),
                estimate + " against " + made.storedBytes());
            return made.bag();
        }
    }

    private static String gpg(String more) {
        return "export GNUPGHOME=$PWD/keys; mkdir -p -m 700 keys; printf '%s' '" + TEXT + "' > keys/word; " + more;
    }

    @ParameterizedTest
    @CsvSource({"ZSTD, 0, zstd -dc", "ZSTD, 1000000, zstd -dc", "GZIP, 4000000, gzip -dc", "XZ, 2000000, xz -dc", "NONE, 20000000, cat"})
    void gpgOpensEveryPart(Codec codec, long split, String decoder) throws IOException {
        Path bag = capture(codec, split);
        assertTrue(Tools.run(bag, "sha256sum -c manifest-sha256.txt tagmanifest-sha256.txt").contains("data/image.json: OK"));
        if (split > 0) {
            assertEquals("", Tools.run(bag, "find data -name 'disk.img*' -size +" + split + "c"), "no part is longer than asked for");
        }
        Tools.run(folder, gpg(
            "for p in secret/data/*.gpg; do gpg -q --batch --pinentry-mode loopback --passphrase-file keys/word -d $p || exit 9; done | "
                + decoder + " > back.img"));
        Path restored = folder.resolve("restored.img");
        Restore.toFile(Bag.open(bag, SECRET), restored, Watch.NONE);
        assertEquals(-1, Files.mismatch(folder.resolve("back.img"), restored));
        assertTrue(Verification.run(Bag.open(bag, SECRET), ProofLevel.READABLE, Watch.NONE).ok());
        assertTrue(Verification.run(Bag.open(bag), ProofLevel.SOUND, Watch.NONE).ok(), "digests need no passphrase");
        String packets = Tools.run(folder, gpg(
            "gpg -q --batch --pinentry-mode loopback --passphrase-file keys/word --list-packets $(ls secret/data/*.gpg | head -1) 2>&1"));
        assertTrue(packets.contains("cipher 9") && packets.contains("s2k 3, hash 8") && packets.contains("mdc_method: 2"), packets);
    }

    @Test
    void whatGpgEncryptsCanBeOpened() throws IOException {
        Tools.run(folder, "seq 1 200000 > clear; "
            + gpg("gpg -q --batch --pinentry-mode loopback --passphrase-file keys/word --cipher-algo AES256 -z 0 -c -o sealed clear"));
        OpenPgp.Content content = OpenPgp.decrypting(Files.newInputStream(folder.resolve("sealed")), SECRET, "sealed");
        org.junit.jupiter.api.Assertions.assertArrayEquals(Files.readAllBytes(folder.resolve("clear")), content.readAllBytes());
        assertTrue(content.intact());
    }

    @Test
    void aWrongPassphraseIsSaidBeforeAnythingIsRead() throws IOException {
        Path bag = capture(Codec.ZSTD, 1_000_000);
        for (Passphrase wrong : new Passphrase[] {Passphrase.NONE, Passphrase.of("späte Ähre 13".toCharArray())}) {
            Watch none = new Watch() {
                @Override
                public void advanced(app.granary.engine.progress.Progress progress) {
                    throw new AssertionError("frames were read");
                }

                @Override
                public boolean stopRequested() {
                    return false;
                }
            };
            FaultException locked = assertThrows(FaultException.class,
                () -> Verification.run(Bag.open(bag, wrong), ProofLevel.READABLE, none));
            assertEquals(Fault.Kind.LOCKED, locked.fault().kind());
            assertTrue(locked.getMessage().contains("assphrase"), locked.getMessage());
            assertFalse(locked.getMessage().contains("Ähre"), "no message holds it");
            assertEquals(Fault.Kind.LOCKED,
                assertThrows(FaultException.class, () -> Restore.toFile(Bag.open(bag, wrong), folder.resolve("never"), Watch.NONE))
                    .fault().kind());
        }
        assertEquals("a passphrase", SECRET.toString());
    }

    @Test
    void damageToAPartStaysInIt() throws IOException {
        Path bag = capture(Codec.ZSTD, 1_000_000);
        Path part = bag.resolve("data/disk.img.zst.001.gpg");
        byte[] whole = Files.readAllBytes(part);
        SplittableRandom random = new SplittableRandom(8);
        for (int round = 0; round < 16; round++) {
            byte[] changed = whole.clone();
            changed[round < 6 ? round * 11 : random.nextInt(whole.length)] ^= (byte) (1 << random.nextInt(8));
            Files.write(part, changed);
            CheckOutcome outcome = Verification.run(Bag.open(bag, SECRET), ProofLevel.READABLE, Watch.NONE);
            assertFalse(outcome.ok());
            assertTrue(outcome.problems().stream().allMatch(p -> p.part().equals("data/disk.img.zst.001.gpg") && !p.partition().isEmpty()),
                outcome.problems().toString());
            CheckOutcome sound = Verification.run(Bag.open(bag), ProofLevel.SOUND, Watch.NONE);
            assertEquals("data/disk.img.zst.001.gpg", sound.problems().get(0).part());
        }
    }

    @Test
    void whateverBytesComeNothingLoopsOrGrows() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (OutputStream message = OpenPgp.encrypting(out, SECRET)) {
            message.write(new byte[100_000]);
        }
        byte[] sealed = out.toByteArray();
        assertTrue(sealed.length <= 100_000 + 512 + 100_000 / 65_536 * 4 + 8, sealed.length + " bytes");
        SplittableRandom random = new SplittableRandom(2);
        for (int round = 0; round < 300; round++) {
            byte[] changed = java.util.Arrays.copyOf(sealed, round % 5 == 0 ? random.nextInt(sealed.length) : sealed.length);
            for (int i = 0; i < 4 && changed.length > 0; i++) {
                changed[random.nextInt(Math.min(changed.length, round % 2 == 0 ? 60 : changed.length))] = (byte) random.nextInt();
            }
            try {
                OpenPgp.Content content = OpenPgp.decrypting(new ByteArrayInputStream(changed), SECRET, "part");
                byte[] back = content.readNBytes(200_000);
                assertFalse(back.length == 100_000 && content.intact() && !java.util.Arrays.equals(back, new byte[100_000]),
                    "changed content passes for intact");
            } catch (IOException refused) {
                // as it should be
            }
        }
    }
}
