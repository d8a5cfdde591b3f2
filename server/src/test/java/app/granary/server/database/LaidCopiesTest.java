package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.host.FolderShelf;
import app.granary.engine.host.Shelf;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** On a real folder that stands for a drive. */
class LaidCopiesTest {
    private static final Instant FIRST = Instant.parse("2026-11-01T01:00:00Z");
    private static final String OF_ANOTHER = OwnDatabase.named(FIRST.minusSeconds(86_400));
    @TempDir
    private Path folder;

    private List<String> onDrive() throws IOException {
        try (Stream<Path> files = Files.list(folder.resolve("drive").resolve(Copies.FOLDER))) {
            return files.map(each -> each.getFileName().toString()).sorted().toList();
        }
    }

    @Test
    void theOldestOfItsOwnGoAndNeverTheNewestNorThoseOfAnotherOffice() throws IOException {
        Path drive = Files.createDirectories(folder.resolve("drive"));
        Shelf shelf = new FolderShelf(drive, drive, image -> List.of());
        LaidCopies laid = new LaidCopies(Files.createDirectories(folder.resolve("copies")));
        InputStream copy = InputStream.nullInputStream();
        shelf.putFile(Copies.FOLDER, OF_ANOTHER, copy);
        List<String> wanted = new ArrayList<>(List.of(OF_ANOTHER));
        for (int day = 0; day < 40; day++) {
            String name = OwnDatabase.named(FIRST.plusSeconds(day * 86_400L));
            shelf.putFile(Copies.FOLDER, name, copy);
            laid.prune("peg/1", shelf, name);
            wanted.add(name);
            if (wanted.size() > LaidCopies.KEPT + 1) {
                wanted.remove(1);
            }
            assertEquals(wanted, onDrive(), "day " + day);
        }
        String clockSetBack = OwnDatabase.named(FIRST.plusSeconds(1));
        shelf.putFile(Copies.FOLDER, clockSetBack, copy);
        laid.prune("peg/1", shelf, clockSetBack);
        assertTrue(onDrive().contains(clockSetBack), "the one just laid stays, whatever its name says");
        laid.prune("cairn", shelf, wanted.get(3));
        assertTrue(onDrive().containsAll(wanted), "each destination has a list of its own");
    }
}
