package app.granary.server.home;

import app.granary.core.journal.JournalEnd;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Optional;

/** The end of the journal as it is noted in a file of its own: lines of one length, of which the one with the highest number counts. */
public final class NotedEnd {
    public static final String FILE = "journal-end.txt";
    /** Length of a line, its end included. */
    public static final int SLOT = 200;
    private static final int LONGEST = 10 * SLOT;

    private NotedEnd() {
    }

    /** @return the newest line noted in a folder; empty where none was, or the file is not one of these */
    public static Optional<JournalEnd> read(Path folder) throws IOException {
        Path file = folder.resolve(FILE);
        return Files.isRegularFile(file) && Files.size(file) <= LONGEST ? parse(Files.readString(file, StandardCharsets.ISO_8859_1))
            : Optional.empty();
    }

    static Optional<JournalEnd> parse(String text) {
        return Arrays.stream(text.split("\n")).map(JournalEnd::parse).flatMap(Optional::stream)
            .max(Comparator.comparingLong(JournalEnd::number));
    }
}
