package app.granary.engine.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
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
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A disk that is written to while it is read: the image would be of no moment, and yet every check of it against itself would pass. */
class TornTest {
    @TempDir
    Path folder;

    /** Does something to the disk once so much of it has been read. */
    private static final class Meddler implements Watch {
        private final Progress.Stage stage;
        private final Runnable deed;
        private boolean done;

        Meddler(Progress.Stage stage, Runnable deed) {
            this.stage = stage;
            this.deed = deed;
        }

        @Override
        public void advanced(Progress progress) {
            if (!done && progress.stage() == stage && progress.doneBytes() >= progress.totalBytes() / 2) {
                done = true;
                deed.run();
            }
        }

        @Override
        public boolean stopRequested() {
            return false;
        }
    }

    private void capture(Path disk, Progress.Stage stage, String deed) throws IOException {
        Path into = Files.createDirectories(folder.resolve("drive"));
        Meddler meddler = new Meddler(stage, () -> Tools.run(folder, deed));
        try (RawSource source = RawSource.open(disk)) {
            Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED), new CaptureRequest(ImageName.parse("night"), Codec.ZSTD, 1,
                OptionalLong.empty(), Passphrase.NONE,
                new DiskIdentity("Halden S2", "22-HS-1", source.sizeBytes()), true), into, Clock.systemUTC(), meddler);
        } finally {
            assertTrue(meddler.done, "the disk was to be changed meanwhile");
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "GPT_EXT4_AND_FAT | debugfs -w -R 'set_super_value mnt_count 7' 'DISK?offset=42991616' 2>&1", // what mounting does
        "GPT_EXT4_AND_FAT | seq 1 9 > nine; debugfs -w -R 'write nine nine' 'DISK?offset=42991616' 2>&1", // a file more
        "GPT_EXT4_AND_FAT | export MTOOLS_SKIP_CHECK=1; seq 1 9 > nine; mcopy -i DISK@@1M nine ::/nine",
        "GPT_EXT4_AND_FAT | flip DISK 1049000", // within the first file system's first sectors: another one was written over it
        "GPT_EXT4_AND_FAT | dd if=/dev/zero of=DISK bs=1M count=64 conv=notrunc status=none", // overwritten from its start
        "GPT_EXT4_AND_FAT | sgdisk -d 2 DISK", // its table
        "MBR_EXT2_AND_LOGICAL | flip DISK 450",
        "GPT_NTFS | flip DISK 1048656", // where NTFS keeps the number of its sectors' size and its serial
    })
    void aDiskThatIsWrittenToWhileItIsReadBecomesNoImage(Medium medium, String deed) {
        Path disk = medium.make(folder);
        String said = assertThrows(FaultException.class, () -> capture(disk, Progress.Stage.CAPTURING, deed.replace("DISK",
            disk.toString()))).getMessage();
        assertTrue(said.contains("changed while it was read") && said.contains("No image was made"), said);
        assertEquals("", Tools.run(folder, "ls drive"), "nothing that could be carried on, since its halves are of two moments");
    }

    @Test
    void whatHappensToTheDiskAfterItWasReadIsNoFaultOfTheImage() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        capture(disk, Progress.Stage.CHECKING, "dd if=/dev/zero of=" + disk + " bs=1M count=64 conv=notrunc status=none");
        assertEquals("night", Tools.run(folder, "ls drive").strip());
    }

    /**
     * It gives zeros for a sector of its maps when it is looked at once more: that is no change, and its image may be all that is left of
     * it.
     */
    @Test
    void aDiskThatBeginsToFailOnceItIsReadStillBecomesItsImage() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        boolean[] failing = {false};
        Watch untilRead = new Meddler(Progress.Stage.CAPTURING, () -> failing[0] = true);
        try (RawSource source = RawSource.open(disk)) {
            long maps = (41L << 20) + 2048; // the second file system's group descriptors
            SourceOver worn = new SourceOver(source) {
                @Override
                public void read(long offsetBytes, ByteBuffer into) throws IOException {
                    if (failing[0] && offsetBytes < maps + 512 && offsetBytes + into.remaining() > maps) {
                        throw new IOException("Input/output error");
                    }
                    source.read(offsetBytes, into);
                }
            };
            DiskSurvey survey = DiskSurvey.of(source, SurveyChoice.USED);
            Capture.run(worn, survey, new CaptureRequest(ImageName.parse("night"), Codec.ZSTD, 1, OptionalLong.empty(), Passphrase.NONE,
                new DiskIdentity("Halden S2", "22-HS-1", source.sizeBytes()), true), Files.createDirectories(folder.resolve("drive")),
                Clock.systemUTC(), untilRead);
        }
        assertTrue(failing[0]);
        assertEquals("night", Tools.run(folder, "ls drive").strip());
    }
}
