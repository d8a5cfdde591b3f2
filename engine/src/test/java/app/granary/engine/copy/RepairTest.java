package app.granary.engine.copy;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.Begun;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Rehearsal;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Copies, rehearsals, and images repaired from their copies. */
class RepairTest {
    @TempDir
    Path folder;
    private Path here;
    private Path there;

    @BeforeEach
    void imageAndCopy() throws IOException {
        here = capture("here");
        there = Files.createDirectories(folder.resolve("drive2")).resolve("here");
        assertTrue(BagCopy.run(here, there.getParent(), Watch.NONE).ok());
    }

    private Path capture(String name) throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        try (RawSource source = RawSource.open(disk)) {
            return Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse(name), Codec.ZSTD, 3, OptionalLong.of(500_000), Passphrase.NONE,
                    new DiskIdentity("m", "s", source.sizeBytes()), true),
                folder, Clock.systemUTC(), Watch.NONE).bag();
        }
    }

    @Test
    void aCopyIsTheSameInEveryByteAndNeverHalf() throws IOException {
        assertEquals("", Tools.run(folder, "diff -r here drive2/here"));
        assertTrue(assertThrows(FaultException.class, () -> BagCopy.run(here, there.getParent(), Watch.NONE)).getMessage()
            .contains("exists already"));
        Tools.run(folder, "flip here/data/disk.img.zst.002 999; rm -r drive2/here");
        assertTrue(assertThrows(FaultException.class, () -> BagCopy.run(here, there.getParent(), Watch.NONE)).getMessage()
            .contains("The copy is not sound, so it was removed again"));
        assertEquals("", Tools.run(folder, "ls drive2"));
    }

    /** What a copy left that was killed took its name for ever. */
    @Test
    void aKilledCopyIsRepeatedAndACaptureOfItsNameIsNot() throws IOException {
        Path elsewhere = Files.createDirectories(there.resolveSibling("elsewhere"));
        String name = here.getFileName().toString();
        Tools.run(elsewhere, "mkdir -p " + name + ".partial/data; printf half > " + name + ".partial/data/disk.img");
        assertTrue(BagCopy.run(here, elsewhere, Watch.NONE).ok());
        assertEquals(name, Tools.run(elsewhere, "ls -A").strip());
        Path another = Files.createDirectories(there.resolveSibling("another"));
        try (BagWriter capture = BagWriter.create(another, ImageName.parse(name),
            new Begun("2026-11-24T02:14:00Z", new DiskIdentity("m", "s", 1 << 20), SurveyChoice.USED, "ab", 7, Codec.ZSTD, 3,
                OptionalLong.empty(), false),
            Passphrase.NONE, true)) {
            capture.frame(new byte[] {1}, 1, 0, 0);
        }
        assertTrue(assertThrows(FaultException.class, () -> BagCopy.run(here, another, Watch.NONE)).getMessage()
            .contains("There is an unfinished capture"));
        assertEquals(1, Unfinished.in(another).size());
    }

    @Test
    void everyHarmIsMendedFromTheCopy() throws IOException {
        for (String harm : new String[] {"flip data/disk.img.zst.001 5000", "truncate -s -77 data/disk.img.zst.000",
            "truncate -s +5 data/disk.img.zst.001",
            "rm data/disk.img.zst.002", "rm data/image.json", "echo x > manifest-sha256.txt",
            "truncate -s 0 bagit.txt tagmanifest-sha256.txt",
            "mv data/disk.img.zst.000 x; mv data/disk.img.zst.001 data/disk.img.zst.000; mv x data/disk.img.zst.001"}) {
            Tools.run(here, "{ " + harm + "; } 2>&1");
            Repair.Repaired repaired = Repair.run(new Bag(here, Passphrase.NONE), there, ProofLevel.READABLE, Watch.NONE);
            assertTrue(repaired.check().ok(), harm + ": " + repaired.check().problems());
            assertEquals("", Tools.run(folder, "diff -r here drive2/here"), harm);
        }
    }

    @Test
    void onlyWhatDiffersIsWritten() throws IOException {
        Tools.run(here, "flip data/disk.img.zst.001 5000");
        long written = Repair.run(new Bag(here, Passphrase.NONE), there, ProofLevel.READABLE, Watch.NONE).writtenBytes();
        assertTrue(written > 0 && written <= 1 << 20, written + " bytes");
        assertEquals(0, Repair.run(new Bag(here, Passphrase.NONE), there, ProofLevel.SOUND, Watch.NONE).writtenBytes());
    }

    @Test
    void anotherImageOrADamagedOneIsNotMendedFrom() throws IOException {
        Path other = capture("other");
        Tools.run(here, "flip data/disk.img.zst.001 5000");
        String before = Tools.run(here, "find . -type f | sort | xargs sha256sum");
        assertTrue(assertThrows(FaultException.class, () -> Repair.run(new Bag(here, Passphrase.NONE), other, ProofLevel.SOUND, Watch.NONE))
            .getMessage().contains("is not a copy of the same image"));
        Tools.run(there, "flip data/disk.img.zst.000 50");
        assertTrue(assertThrows(FaultException.class, () -> Repair.run(new Bag(here, Passphrase.NONE), there, ProofLevel.SOUND, Watch.NONE))
            .getMessage().contains("The other copy is damaged too"));
        assertEquals(before, Tools.run(here, "find . -type f | sort | xargs sha256sum"));
    }

    @Test
    void nothingIsWrittenThroughALink() throws IOException {
        Tools.run(folder, "echo precious > precious; rm here/data/disk.mbr; ln -s ../../precious here/data/disk.mbr");
        assertTrue(assertThrows(FaultException.class, () -> Repair.run(new Bag(here, Passphrase.NONE), there, ProofLevel.SOUND, Watch.NONE))
            .getMessage().contains("is a link"));
        assertEquals("precious", Tools.run(folder, "cat precious").strip());
    }

    @Test
    void aRehearsalComparesWhatWasReallyRestored() throws IOException {
        Path scratch = Files.createDirectories(folder.resolve("scratch"));
        CheckOutcome good = Rehearsal.run(Bag.open(here), scratch, Watch.NONE);
        assertEquals(ProofLevel.REHEARSED, good.level());
        assertTrue(good.ok(), good.problems().toString());
        assertEquals("", Tools.run(scratch, "ls"), "nothing is left");
        CheckOutcome bad = Rehearsal.run(Bag.open(here), scratch, new app.granary.engine.progress.Watch() {
            private boolean done;

            @Override
            public void advanced(app.granary.engine.progress.Progress progress) {
                if (progress.stage() == app.granary.engine.progress.Progress.Stage.COMPARING && !done) {
                    done = true;
                    Tools.run(scratch, "flip $(ls -d rehearsal-*/disk.img) 50000000");
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        });
        assertTrue(bad.problems().get(0).message().contains("differs from what was read of the disk at bytes 49283072"),
            bad.problems().toString());
    }
}
