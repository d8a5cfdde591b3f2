package app.granary.engine.disc;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Discs are made by Debian's xorriso, read back by it, put together again, and judged by sha256sum and by the image's own proof. */
class DiscFoldersTest {
    @TempDir
    Path folder;
    private Bag bag;
    private Path discs;

    @BeforeEach
    void anImageInParts() throws IOException {
        discs = Files.createDirectories(folder.resolve("discs"));
        try (RawSource source = RawSource.open(Medium.GPT_EXT4_AND_FAT.make(folder))) {
            ImageWork.capture(source, new DiskIdentity("Halden S2", "22-HS-1", source.sizeBytes()), new Storage(Codec.STORED, 0,
                OptionalLong.of(600_000), SurveyChoice.USED), "night", folder, Clock.systemUTC(), Watch.NONE);
        }
        bag = Bag.open(folder.resolve("night"));
    }

    @Test
    void whatIsBurnedComesBack() throws IOException {
        List<Path> made = DiscFolders.make(bag, discs, 3_500_000, false, Watch.NONE);
        assertTrue(made.size() > 2, made.toString());
        String label = Files.readString(made.get(1).resolve("label.txt"));
        assertTrue(label.startsWith("Disc 2 of " + made.size() + " of the disk image night"), label);
        assertTrue(label.contains("serial 22-HS-1"), label);
        Tools.run(made.get(1), "cd night && grep -E '^[0-9a-f]{64}  data/' ../label.txt | sha256sum -c --quiet");
        for (Path each : made) {
            Path iso = DiscFolders.iso(each, Watch.NONE);
            assertTrue(Files.size(iso) <= 3_500_000, iso + " " + Files.size(iso));
            Tools.run(folder, "mkdir -p out && xorriso -osirrox on -indev '" + iso + "' -extract / out > said 2>&1; chmod -R u+w out");
        }
        Tools.run(folder, "cd out/night && sha256sum -c --quiet manifest-sha256.txt && sha256sum -c --quiet tagmanifest-sha256.txt");
        assertEquals("", Tools.run(folder, "diff -r night out/night"));
        assertTrue(Verification.run(Bag.open(folder.resolve("out/night")), ProofLevel.READABLE, Watch.NONE).ok());
    }

    @Test
    void nothingIsLeftOfWhatDoesNotFitAndNothingIsWrittenOver() throws IOException {
        assertTrue(assertThrows(FaultException.class, () -> DiscFolders.make(bag, discs, 1_500_000, false, Watch.NONE)).getMessage()
            .contains("Make the image in parts of at most"));
        List<Path> made = DiscFolders.make(bag, discs, 3_500_000, false, Watch.NONE);
        assertTrue(assertThrows(FaultException.class, () -> DiscFolders.make(bag, discs, 3_500_000, false, Watch.NONE)).getMessage()
            .contains("is there already"));
        assertTrue(Files.exists(made.get(0).resolve("label.txt")), "what was there stays");
        assertThrows(FaultException.class, () -> DiscFolders.iso(discs.resolve("none"), Watch.NONE));
        assertEquals("", Tools.run(discs, "ls | grep -E 'partial|none' || true"));
    }
}
