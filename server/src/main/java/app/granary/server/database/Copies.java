package app.granary.server.database;

import app.granary.core.destination.Destination;
import app.granary.engine.host.ImageStore;
import app.granary.server.home.Keys;
import app.granary.server.home.StartTrouble;
import app.granary.server.journal.Journal;
import app.granary.server.journal.JournalCheck;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeChoices;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.autoconfigure.jdbc.DataSourceProperties;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/**
 * Copies of Granary's own database: consistent while it is worked in, tried by reading it once, kept here and on a destination of choice.
 */
@Service
public class Copies {
    /** Where on a destination they lie. */
    public static final String FOLDER = StartTrouble.ON_DRIVES;
    private static final Logger LOG = LoggerFactory.getLogger(Copies.class);
    private static final Duration EVERY = Duration.ofHours(22);
    private static final String BY = "Granary";

    private final DataSourceProperties database;
    private final GranarySettings settings;
    private final OfficeChoices choices;
    private final ImageStore store;
    private final Journal journal;
    private final Clock clock;

    Copies(DataSourceProperties database, GranarySettings settings, OfficeChoices choices, ImageStore store, Journal journal, Clock clock) {
        this.database = database;
        this.settings = settings;
        this.choices = choices;
        this.store = store;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * A copy that was made.
     *
     * @param sentence how it went, and where else it lies
     */
    public record Copy(String name, long bytes, String sentence) {
    }

    /** At night, when the office is closed; where a night was missed, at the next hour. */
    @Scheduled(initialDelay = 300_000, fixedDelay = 3_600_000)
    void nightly() {
        if (newest().map(at -> at.plus(EVERY).isBefore(clock.instant())).orElse(true) && !choices.openNow()) {
            try {
                make(BY);
            } catch (IOException | SQLException failed) {
                LOG.warn("the database could not be copied", failed);
                journal.add(BY, "copy database", "Granary's own database", Journal.Result.FAILED,
                    "Granary's own database could not be copied: " + failed.getMessage());
            }
        }
    }

    /** When the newest copy kept here was made; empty when there is none. */
    public Optional<Instant> newest() {
        return StartTrouble.found(settings.home()).stream().map(each -> each.toFile().lastModified()).max(Comparator.naturalOrder())
            .map(Instant::ofEpochMilli);
    }

    private Path folder() throws IOException {
        return Files.createDirectories(settings.home().resolve("copies"));
    }

    /** Makes one, reads it, and takes it to the destination that was chosen. */
    public synchronized Copy make(String who) throws IOException, SQLException {
        Path copy = folder().resolve(OwnDatabase.named(clock.instant()));
        Path partial = copy.resolveSibling(copy.getFileName() + ".partial");
        Files.deleteIfExists(partial);
        try (
            Connection owner = DriverManager.getConnection(database.determineUrl(), OwnDatabase.OWNER,
                Keys.of(settings.home().resolve("db")).owner());
            PreparedStatement backup = owner.prepareStatement("backup to ?")) {
            backup.setString(1, partial.toAbsolutePath().toString());
            backup.execute();
        }
        OwnDatabase.addKeys(partial, settings.home().resolve("db"));
        try (FileChannel channel = FileChannel.open(partial, StandardOpenOption.WRITE)) {
            channel.force(true);
        }
        String tried = tried(partial);
        Files.move(partial, copy, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        for (Path old : StartTrouble.found(settings.home()).stream().skip(LaidCopies.KEPT).filter(each -> !each.equals(copy)).toList()) {
            // by name, which a clock set back makes the oldest
            Files.deleteIfExists(old);
        }
        String sentence = "Granary's own database was copied as " + copy.getFileName() + ". " + tried + delivered(copy);
        journal.add(who, "copy database", "Granary's own database", Journal.Result.DONE, sentence);
        return new Copy(copy.getFileName().toString(), Files.size(copy), sentence);
    }

    /** A copy that cannot be read back is none. */
    private String tried(Path copy) throws IOException {
        Path scratch = Files.createTempDirectory(folder(), "tried");
        try {
            OwnDatabase.restore(copy, scratch, clock.instant());
            JournalCheck.Outcome outcome = OwnDatabase.check(scratch);
            return "Read back: " + outcome.sentence();
        } catch (OwnDatabase.Trouble trouble) {
            throw new IOException(trouble.getMessage(), trouble);
        } finally {
            org.springframework.util.FileSystemUtils.deleteRecursively(scratch);
        }
    }

    private String delivered(Path copy) {
        Optional<String> chosen = choices.copiesTo();
        if (chosen.isEmpty()) {
            return " It lies on this computer only; choose a destination for the copies in the office's settings.";
        }
        try {
            Optional<Destination> to = store.destinations().stream().filter(d -> d.id().equals(chosen.get())).findFirst();
            if (to.isEmpty() || !to.get().attached()) {
                return " Its destination is not attached, so it lies on this computer only.";
            }
            try (InputStream content = Files.newInputStream(copy)) {
                store.putFile(chosen.get(), FOLDER, copy.getFileName().toString(), content);
            }
            new LaidCopies(folder()).prune(chosen.get(), store.shelf(chosen.get()), copy.getFileName().toString());
            return " It also lies on " + to.get().name() + ", in " + FOLDER + ".";
        } catch (IOException failed) {
            return " It could not be written to its destination: " + failed.getMessage();
        }
    }
}
