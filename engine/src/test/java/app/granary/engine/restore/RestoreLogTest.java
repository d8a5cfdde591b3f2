package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import app.granary.core.disk.Extents;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.disk.PartitionTable;
import app.granary.engine.bag.Bag;
import app.granary.engine.openpgp.Passphrase;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * What a log says is believed only for the same image, target and layout; whatever else stands in the file means that nothing is done yet.
 */
class RestoreLogTest {
    @TempDir
    Path folder;
    private Bag bag;
    private RestoreLog log;

    @BeforeEach
    void anImage() throws IOException {
        Files.writeString(Files.createDirectories(folder.resolve("bag")).resolve(Bag.MANIFEST), "abc  data/x\n");
        bag = new Bag(folder.resolve("bag"), Passphrase.NONE);
        log = new RestoreLog(folder.resolve("log"), "SERIAL");
    }

    private String identity() throws IOException {
        return new ImageChunks(bag, null, Extents.NONE).identity().orElseThrow();
    }

    private static RestoreLayout layout(long bytes) {
        return new RestoreLayout(LayoutTarget.blank(bytes, 512, Firmware.UNKNOWN), new PartitionTable.Absent(), List.of(), List.of(), 0,
            0, List.of(),
            true, false, List.of(), List.of(), List.of());
    }

    @Test
    void itIsBelievedForTheSameWorkOnly() throws IOException {
        assertEquals(0, log.done(identity(), layout(1000)).chunks());
        log.note(identity(), layout(1000), 512, List.of());
        log.note(identity(), layout(1000), 768, List.of());
        assertEquals(768, log.done(identity(), layout(1000)).chunks());
        assertEquals(0, log.done(identity(), layout(1001)).chunks());
        assertEquals(0, new RestoreLog(folder.resolve("log"), "OTHER").done(identity(), layout(1000)).chunks());
        Files.writeString(folder.resolve("bag").resolve(Bag.MANIFEST), "abd  data/x\n");
        assertEquals(0, log.done(identity(), layout(1000)).chunks(), "another image of the same name");
        log.done();
        assertFalse(Files.exists(folder.resolve("log")));
    }

    @Test
    void hostileFilesMeanNothingIsDone() throws IOException {
        log.note(identity(), layout(1000), 512, List.of());
        String good = Files.readString(folder.resolve("log"));
        Random random = new Random(5);
        for (String bad : List.of("", "\n", good.replace("512", "-1"), good.replace("512", "99999999999999999999"), good + "more\n",
            good + "passed 5 1048576 x\n", good + "passed 0 99999999999 x\n", good + "passed 1048576 0 x\n",
            good.substring(0, good.length() / 2), "x".repeat(10_000), good.replace("512", "5e9"))) {
            Files.writeString(folder.resolve("log"), bad);
            assertEquals(0, log.done(identity(), layout(1000)).chunks(), bad.length() > 100 ? "long" : bad);
        }
        for (int i = 0; i < 300; i++) {
            StringBuilder changed = new StringBuilder(good);
            int at = random.nextInt(good.indexOf('\n'));
            changed.setCharAt(at, (char) ('!' + random.nextInt(90)));
            Files.writeString(folder.resolve("log"), changed);
            assertEquals(changed.toString().equals(good) ? 512 : 0, log.done(identity(), layout(1000)).chunks());
        }
    }
}
