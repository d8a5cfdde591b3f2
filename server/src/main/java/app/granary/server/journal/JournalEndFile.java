package app.granary.server.journal;

import app.granary.core.journal.JournalEnd;
import app.granary.server.home.NotedEnd;
import app.granary.server.home.Private;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.util.Arrays;
import java.util.Objects;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.actuate.health.Health;
import org.springframework.boot.actuate.health.HealthIndicator;
import org.springframework.stereotype.Component;

/**
 * Number and seal of the journal's last line in a file beside the database, on the device before the line is answered with success. Two
 * lines of one length take turns, so that one is whole whatever happens while the other is written; overwriting needs no room on a full
 * volume.
 */
@Component
public class JournalEndFile implements HealthIndicator {
    private static final Logger LOG = LoggerFactory.getLogger(JournalEndFile.class);
    private static final int SLOT = NotedEnd.SLOT;

    private final Path file;
    private RandomAccessFile written;
    private int slot;
    private long noted;
    private Optional<String> missing = Optional.empty();
    private volatile Optional<String> failing = Optional.empty();

    public JournalEndFile(@Value("${granary.home}") Path home) {
        file = home.resolve("db").resolve(NotedEnd.FILE);
    }

    /** Holds the journal against what was noted here, and notes from now on. */
    public synchronized void compare(Connection database) throws SQLException {
        try {
            Optional<JournalEnd> before = NotedEnd.read(file.getParent());
            missing = before.isEmpty() ? Optional.empty() : missing(database, before.get(), "beside the database");
            missing.ifPresent(LOG::error);
            noted = missing.isEmpty() ? before.map(JournalEnd::number).orElse(0L) : 0;
            if (!Files.exists(file)) {
                Files.createFile(file, Private.file());
            }
            written = new RandomAccessFile(file.toFile(), "rwd"); // not a channel, which whoever is interrupted closes
            slot = before.isPresent() && written.length() >= SLOT ? 1 - newestSlot(before.get()) : 0;
        } catch (IOException failed) {
            throw new SQLException(file + " cannot be used: " + failed.getMessage(), failed);
        }
    }

    private int newestSlot(JournalEnd end) throws IOException {
        return Files.readString(file, StandardCharsets.ISO_8859_1).startsWith(end.written()) ? 0 : 1;
    }

    /** What a journal lacks since its end was noted; empty when nothing. */
    public static Optional<String> missing(Connection database, JournalEnd noted, String where) throws SQLException {
        String own = "";
        try (PreparedStatement query = database.prepareStatement("select seal from journal_entry where id = ?")) {
            query.setLong(1, noted.number());
            try (ResultSet row = query.executeQuery()) {
                own = row.next() ? Objects.toString(row.getString(1), "") : "";
            }
        }
        return noted.missing(last(database), own, where);
    }

    /** The last line a journal has. */
    public static Optional<JournalEnd> last(Connection database) throws SQLException {
        try (
            PreparedStatement query = database
                .prepareStatement("select id, seal, at from journal_entry order by id desc fetch first row only");
            ResultSet row = query.executeQuery()) {
            return row.next() ? Optional.of(new JournalEnd(row.getLong(1), row.getString(2), row.getObject(3, Timestamp.class).toInstant()))
                : Optional.empty();
        }
    }

    /** What was found missing at this start; empty when nothing was. */
    public Optional<String> missing() {
        return missing;
    }

    /** Why the end cannot be noted now; empty while it can. */
    public Optional<String> failing() {
        return failing;
    }

    @Override
    public Health health() {
        return failing.map(why -> Health.down().withDetail("journal", why).build()).orElseGet(() -> Health.up().build());
    }

    /**
     * Called when the line is in the database for good. What was answered stays answered, so nothing is thrown: health and Today tell of a
     * file that cannot be written.
     */
    synchronized void reached(JournalEnd end) {
        if (written == null || end.number() <= noted) {
            return;
        }
        byte[] text = Arrays.copyOf(end.written().getBytes(StandardCharsets.US_ASCII), SLOT);
        Arrays.fill(text, end.written().length(), SLOT - 1, (byte) ' ');
        text[SLOT - 1] = '\n';
        try {
            written.seek((long) slot * SLOT);
            written.write(text);
            slot = 1 - slot;
            noted = end.number();
            failing = Optional.empty();
        } catch (IOException failed) {
            if (failing.isEmpty()) {
                LOG.error("the end of the journal cannot be noted in {}: {}", file, failed.getMessage());
            }
            failing = Optional.of("The end of the journal cannot be noted in " + file + ": " + failed.getMessage());
        }
    }

    @PreDestroy
    public synchronized void close() throws IOException {
        if (written != null) {
            written.close();
            written = null;
        }
    }
}
