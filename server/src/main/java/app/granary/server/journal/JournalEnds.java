package app.granary.server.journal;

import app.granary.core.destination.Destination;
import app.granary.core.journal.JournalChain;
import app.granary.core.journal.JournalEnd;
import app.granary.engine.host.ImageStore;
import app.granary.server.home.NotedEnd;
import app.granary.server.home.StartTrouble;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.sql.DataSource;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * The end of the journal as it is noted on drives, which whoever changes the database's folder does not reach; and what is said when lines
 * are missing.
 */
@Component
public class JournalEnds {
    private static final Logger LOG = LoggerFactory.getLogger(JournalEnds.class);
    private static final String FOLDER = StartTrouble.ON_DRIVES;
    private static final long NIGHTLY_MILLIS = 22 * 3_600_000L;

    private final ImageStore store;
    private final DataSource database;
    private final Journal journal;
    private final JournalEndFile file;
    private final Path home;

    JournalEnds(ImageStore store, DataSource database, Journal journal, JournalEndFile file, @Value("${granary.home}") Path home) {
        this.store = store;
        this.database = database;
        this.journal = journal;
        this.file = file;
        this.home = home;
    }

    /** A journal that lost lines says so in itself, for ever. */
    @EventListener(ApplicationReadyEvent.class)
    void tell() {
        file.missing()
            .ifPresent(what -> journal.add("Granary", "journal", "journal", Journal.Result.FAILED,
                what + " What was answered with success then may be undone: look through the drives for images, and compare "
                    + "with the copies of the database. " + StartTrouble.copies(home)));
    }

    /** Each journal has a file of its own on a drive that serves several offices, named after its first line's seal. */
    private static Optional<String> fileName(Connection database) throws SQLException {
        try (PreparedStatement query = database.prepareStatement("select seal from journal_entry where id = 1");
            ResultSet row = query.executeQuery()) {
            return row.next() ? Optional.of("journal-end-" + row.getString(1).substring(0, 12) + ".txt") : Optional.empty();
        }
    }

    /** Onto every destination that is attached. */
    @Scheduled(initialDelay = 600_000, fixedDelay = NIGHTLY_MILLIS)
    public void note() {
        try (Connection connection = database.getConnection()) {
            Optional<JournalEnd> end = JournalEndFile.last(connection);
            Optional<String> name = fileName(connection);
            if (end.isEmpty() || name.isEmpty()) {
                return;
            }
            for (Destination each : store.destinations()) {
                if (each.attached() && each.writable()) {
                    onto(each, name.get(), end.get().written() + "\n");
                }
            }
        } catch (SQLException | IOException failed) {
            LOG.warn("the end of the journal could not be noted on the drives: {}", failed.getMessage());
        }
    }

    private void onto(Destination drive, String name, String text) {
        try {
            store.putFile(drive.id(), FOLDER, name, new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
        } catch (IOException failed) {
            LOG.warn("the end of the journal could not be noted on {}: {}", drive.name(), failed.getMessage());
        }
    }

    /** Where it is noted, and what the journal lacks of it; empty when it is all there. */
    List<JournalChain.Break> missing(Connection connection) throws SQLException, IOException {
        List<JournalChain.Break> out = new ArrayList<>();
        Optional<JournalEnd> beside = NotedEnd.read(home.resolve("db"));
        if (beside.isPresent()) {
            add(connection, beside.get(), "beside the database", out);
        }
        Optional<String> name = fileName(connection);
        for (Destination each : name.isEmpty() ? List.<Destination>of() : store.destinations()) {
            if (each.attached()) {
                Optional<JournalEnd> noted = store.shelf(each.id()).smallFile(FOLDER, name.get(), NotedEnd.SLOT * 2)
                    .flatMap(bytes -> JournalEnd.parse(new String(bytes, StandardCharsets.ISO_8859_1)));
                if (noted.isPresent()) {
                    add(connection, noted.get(), "on " + each.name(), out);
                }
            }
        }
        return out;
    }

    private static void add(Connection connection, JournalEnd noted, String where, List<JournalChain.Break> out) throws SQLException {
        JournalEndFile.missing(connection, noted, where).ifPresent(what -> out.add(new JournalChain.Break(noted.number(), what)));
    }

    /** For the night's mail: what is in another's hands cannot be changed here. */
    public Optional<String> inWords() {
        try (Connection connection = database.getConnection()) {
            return JournalEndFile.last(connection)
                .map(end -> "The journal has " + end.number() + " lines; the seal of the last is " + end.seal() + ".");
        } catch (SQLException failed) {
            return Optional.empty();
        }
    }
}
