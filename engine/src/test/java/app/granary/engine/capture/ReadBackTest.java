package app.granary.engine.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
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
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A destination that does not give back what was written to it is found out before the image gets its name. */
class ReadBackTest {
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2026-11-24T02:14:00Z"), ZoneOffset.UTC);

    @TempDir
    Path folder;

    private CaptureResult capture(Path disk, String name, boolean check, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse(name), Codec.ZSTD, 3, OptionalLong.of(65_536), Passphrase.NONE,
                    new DiskIdentity("model", "serial", source.sizeBytes()), check),
                folder, CLOCK, watch);
        }
    }

    @Test
    void theDigestsReadBackAreThoseOfWhatWasWritten() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        capture(disk, "checked", true, Watch.NONE);
        capture(disk, "unchecked", false, Watch.NONE);
        assertEquals("",
            Tools.run(folder, "grep disk.img checked/manifest-sha256.txt > a; grep disk.img unchecked/manifest-sha256.txt > b; cmp a b"));
        assertTrue(Tools.run(folder.resolve("unchecked"), "sha256sum -c manifest-sha256.txt").contains("disk.img.zst.0003: OK"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"flip %s 999", "truncate -s -1 %s", "truncate -s +1 %s", "rm %s"})
    void whatComesBackOtherwiseIsNoImage(String harm) throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        Watch harming = new Watch() {
            private boolean done;

            @Override
            public void advanced(Progress progress) {
                if (progress.stage() == Progress.Stage.CHECKING && !done) {
                    done = true;
                    Tools.run(folder.resolve("image.partial/data"), harm.formatted("$(ls disk.img* | tail -1)"));
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        };
        FaultException refused = assertThrows(FaultException.class, () -> capture(disk, "image", true, harming));
        assertTrue(refused.getMessage().contains("is not what was written: data/disk.img.zst."), refused.getMessage());
        assertFalse(Files.exists(folder.resolve("image")) || Files.exists(folder.resolve("image.partial")));
    }
}
