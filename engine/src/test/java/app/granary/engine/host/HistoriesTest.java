package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertTrue;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Random histories of captures, copies onto disks, mounts, writes, replugs, exchanged paths and kills on a small machine in memory, each
 * step of work broken into by the next deed. The claims, the confirming and holding of targets, the capture and the copy are the ones that
 * work on real disks.
 */
@Tag("large")
class HistoriesTest {
    private static final int HISTORIES = 2000;

    @Test
    void noDiskIsWrittenThatWasNotClaimedAndNoImageIsOfTwoMoments() throws IOException {
        Path memory = Path.of("/dev/shm");
        Path folder = Files.createTempDirectory(Files.isWritable(memory) ? memory : Path.of(System.getProperty("java.io.tmpdir")),
            "histories-");
        int images = 0;
        int copies = 0;
        try {
            for (long seed = 0; seed < HISTORIES; seed++) {
                Path own = Files.createDirectory(folder.resolve("h" + seed));
                History history = new History(seed, own);
                try {
                    history.play();
                } catch (AssertionError | RuntimeException wrong) {
                    throw new AssertionError("history " + seed + ": " + wrong.getMessage(), wrong);
                }
                images += history.images;
                copies += history.copies;
                Folders.delete(own);
            }
        } finally {
            Folders.delete(folder);
        }
        assertTrue(images > HISTORIES / 4 && copies > HISTORIES / 10,
            "too little came to its end: " + images + " images, " + copies + " copies");
    }
}
