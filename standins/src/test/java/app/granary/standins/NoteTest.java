package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class NoteTest {
    @TempDir
    private Path folder;

    /** A list of targets that was read while one was being written failed. */
    @Test
    void whoReadsMeanwhileSeesOneOrTheOther() throws Exception {
        Path note = folder.resolve("rod-1.scale");
        Note.write(note, "1\n");
        Thread writer = new Thread(() -> {
            try {
                for (int i = 0; i < 2000; i++) {
                    Note.write(note, i % 2 == 0 ? "1000\n" : "1\n");
                }
            } catch (java.io.IOException failed) {
                throw new java.io.UncheckedIOException(failed);
            }
        });
        writer.start();
        while (writer.isAlive()) {
            assertTrue(List.of("1\n", "1000\n").contains(Files.readString(note)));
        }
        writer.join();
        assertTrue(Files.list(folder).count() == 1);
    }
}
