package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertNotSame;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;

import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A survey is kept as long as what it is of stays the same, and no longer. */
class SurveysTest {
    @TempDir
    Path folder;

    private final Surveys surveys = new Surveys();

    @Test
    void aDiskIsReadAgainOnceItChanged() throws Exception {
        Path disk = folder.resolve("disk.img");
        Tools.run(folder, "truncate -s 64M disk.img; mkfs.ext4 -q -F disk.img");
        DiskSurvey first = surveys.of(disk, SurveyChoice.USED);
        assertSame(first, surveys.of(disk, SurveyChoice.USED));
        assertNotSame(first, surveys.of(disk, SurveyChoice.ALL_BLOCKS), "another choice is another survey");
        assertNotSame(first, surveys.careful(disk, SurveyChoice.USED), "one with bad sectors as zeros is another too");
        Tools.run(folder, "dd if=/dev/urandom of=f bs=1M count=8 2>/dev/null; debugfs -w -R 'write f f' disk.img 2>/dev/null");
        assertNotEquals(first.usedBytes(), surveys.of(disk, SurveyChoice.USED).usedBytes());
    }

    @Test
    void anImageIsSurveyedOnceAndNeverWithoutItsPassphrase() throws Exception {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Tools.run(raw, "truncate -s 64M disk.img; mkfs.ext4 -q -F disk.img");
        MachineHost host = new MachineHost("here", raw, folder.resolve("images"), folder.resolve("scratch"), Clock.systemUTC(),
            Attachments.DISKS, 0);
        String disk = host.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("disk.img")).findFirst()
            .orElseThrow().id();
        Passphrase secret = Passphrase.of("theodolite-42".toCharArray());
        host.imaging().capture(disk, "granary-folder", "secret",
            new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.USED, "", secret), Watch.NONE);
        Path image = folder.resolve("images/secret");
        Bag open = Bag.open(image, secret);
        DiskSurvey first = surveys.of(open, open.content());
        assertSame(first, surveys.of(Bag.open(image, secret), open.content()));
        Bag wrong = Bag.open(image, Passphrase.of("theodolite-43".toCharArray()));
        assertThrows(FaultException.class, () -> surveys.of(wrong, open.content()), "what is kept opens for nobody else");
        assertEquals(first.usedBytes(), surveys.of(open, open.content()).usedBytes());
    }
}
