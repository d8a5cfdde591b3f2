package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Imaging;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.OptionalLong;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The machine made of software is Debian's QEMU: what it says of a restored disk is asserted. */
@Tag("virtual-machine")
class BootRehearsalTest {
    @TempDir
    Path folder;

    private Bag capture(Path disk) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            CaptureRequest request = new CaptureRequest(ImageName.parse("tiny"), Codec.ZSTD, 3, OptionalLong.empty(), Passphrase.NONE,
                new DiskIdentity("m", "s", source.sizeBytes()), true);
            return Bag
                .open(Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED), request, folder, Clock.systemUTC(), Watch.NONE).bag());
        }
    }

    /** The disk of one sector with which acceleration is tried does start, and what does not is no acceleration. */
    @Test
    void accelerationIsTriedOnADiskThatStarts() throws IOException {
        assertTrue(Acceleration.startsSoon("-accel", "tcg"));
        assertFalse(Acceleration.startsSoon("-accel", "none-of-that-name"));
        assertEquals(Acceleration.isQuick(), Qemu.machine(64, false, "do without").contains("-enable-kvm"));
    }

    @Test
    void aDiskThatWasRestoredOntoALargerOneStarts() throws IOException {
        Bag bag = capture(TinySystem.make(folder));
        DiskSurvey survey = Restore.survey(bag, bag.content());
        RestoreLayout layout = RestoreLayout.of(survey, LayoutTarget.blank(64 << 20, 512, Firmware.BIOS),
            LayoutChoice.of(LayoutChoice.Strategy.GROW));
        Path back = folder.resolve("back.img");
        assertEquals(List.of(), Restore
            .run(bag, bag.content(), RestoreRequest.of(survey, layout), RestoreTarget.file(back, 64 << 20, 512), Watch.NONE).differences());
        String before = Tools.run(folder, "sha256sum back.img");
        BootRehearsal.Seen seen = boots(back);
        assertTrue(seen.serial().contains(TinySystem.SAYS), seen.toString());
        assertTrue(seen.rested());
        assertTrue(ImageIO.read(new ByteArrayInputStream(seen.picture())).getWidth() >= 640);
        assertEquals(before, Tools.run(folder, "sha256sum back.img"), "starting it writes nothing to it");
    }

    /** On a machine that was too busy all the time no picture was taken, while the journal said that one was kept. */
    @Test
    void whatIsLeftBeforeItWasLookedAtStillShowsAPicture() throws IOException {
        try (RawSource source = RawSource.open(TinySystem.make(folder))) {
            BootRehearsal.Seen seen = BootRehearsal.run(source, false, Duration.ZERO);
            assertFalse(seen.rested());
            assertTrue(ImageIO.read(new ByteArrayInputStream(seen.picture())).getWidth() >= 300);
        }
    }

    private static BootRehearsal.Seen boots(Path disk) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return BootRehearsal.run(source, false, Duration.ofSeconds(60));
        }
    }

    /** What the machine reads comes from the image's frames, over NBD; on the serial line it says what it started. */
    @Test
    void aRehearsalStartsTheImageItself() throws IOException {
        Bag bag = capture(TinySystem.make(folder));
        String before = Tools.run(bag.folder(), "sha256sum data/*");
        Imaging.Started started = ImageWork.start(bag);
        assertTrue(started.seen().orElseThrow().serial().contains(TinySystem.SAYS), started.toString());
        assertEquals(before, Tools.run(bag.folder(), "sha256sum data/*"));
    }

    @Test
    void aDiskThatDoesNotStartSaysNothing() throws IOException {
        Tools.run(folder, "truncate -s 4M blank.img");
        BootRehearsal.Seen seen;
        try (RawSource blank = RawSource.open(folder.resolve("blank.img"))) {
            seen = BootRehearsal.run(blank, false, Duration.ofSeconds(12));
        }
        assertFalse(seen.serial().contains(TinySystem.SAYS));
        assertTrue(seen.picture().length > 0, "the firmware's own words are a picture too");
    }
}
