package app.granary.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/** Small files beside made-up devices: read while they are written, so each is there whole, as it was or as it becomes. */
final class Note {
    private Note() {
    }

    static void write(Path file, String text) throws IOException {
        Path partial = Files.createTempFile(file.getParent(), "." + file.getFileName(), ".partial");
        Files.writeString(partial, text);
        Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }
}
