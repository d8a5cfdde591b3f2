package app.granary.server.database;

import app.granary.server.home.Lookout;
import app.granary.server.home.StartRefused;
import app.granary.server.home.StartTrouble;
import app.granary.server.journal.JournalEndFile;
import jakarta.annotation.PreDestroy;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.h2.engine.SessionLocal;
import org.h2.jdbc.JdbcConnection;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.flyway.FlywayMigrationStrategy;
import org.springframework.stereotype.Component;

/**
 * Keeps the database open from before it is brought up to date until Granary ends. Without it the database was closed when the owner's last
 * connection was, compacted in the hurry of a start, and opened again at once by the worker's first; on a busy machine one such start in
 * twenty-five came up with the state of the fourth migration and nothing after it (measured; five starts at once on two cores). It is also
 * what makes the database write each commit before it answers: only its owner may ask for that, and only for as long as it is open.
 */
@Component
class OwnersConnection implements FlywayMigrationStrategy {
    static {
        DurableFile.register();
    }

    private static final Logger LOG = LoggerFactory.getLogger(OwnersConnection.class);
    private final Path home;
    private final JournalEndFile end;
    private Connection held;
    private DataSource source;
    private Lookout lookout;
    private int opened;
    private boolean stopped;

    OwnersConnection(@Value("${granary.home}") Path home, JournalEndFile end) {
        this.home = home;
        this.end = end;
    }

    /** @throws StartRefused when the database cannot be opened, is not whole, or is missing from a home that has a past */
    @Override
    public void migrate(Flyway flyway) {
        try {
            source = flyway.getConfiguration().getDataSource();
            held = source.getConnection();
            Wholeness.require(held);
        } catch (SQLException notOpened) {
            throw StartTrouble.of(home, notOpened);
        } catch (RuntimeException torn) {
            throw StartTrouble.damaged(home, torn.getMessage(), torn);
        }
        try {
            flyway.migrate();
            writeAtOnce(); // not before: what brings it up to date is done again where it was not kept, and would leave a large file
            end.compare(held);
            lookout = new Lookout("granary-database", this::look);
        } catch (FlywayException | SQLException failed) {
            throw new StartRefused(
                "The database in " + home + " could not be brought up to date: " + failed.getMessage() + ". " + StartTrouble.copies(home),
                failed);
        }
    }

    /**
     * A full drive closes the database in the middle of a write. It is opened again by its owner first, so that nothing is ever answered
     * that is not kept; until that works, nothing is answered.
     *
     * @return how often it was opened again; connections from before know nothing of it
     */
    synchronized int requireOpen() throws SQLException {
        if (stopped) { // or work that is just ending would open it again, and nobody would close it
            throw new SQLException("Granary is stopping");
        }
        if (held != null && held.isClosed()) {
            held = source.getConnection();
            writeAtOnce();
            opened++;
            LOG.warn("the database was opened again");
        }
        return opened;
    }

    /** One that failed at a write answers nothing more, though it looks open: it is ended without a further write, and opened again. */
    synchronized void look() {
        if (held == null) {
            return;
        }
        try (Statement sql = held.createStatement()) {
            sql.execute("checkpoint"); // writes nothing where all is written
        } catch (SQLException failed) {
            LOG.error("the database failed: {}", String.valueOf(failed.getMessage()).lines().findFirst().orElse(""));
            end();
        }
    }

    /** Past its statements: one that is begun on a store which has failed may wait for ever for the store's next version. */
    private void end() {
        try (Connection broken = held) {
            if (broken.unwrap(JdbcConnection.class).getSession() instanceof SessionLocal session) {
                session.getDatabase().shutdownImmediately();
            }
        } catch (SQLException | RuntimeException ended) {
            LOG.debug("ended", ended);
        }
        DurableFile.closeBelow(home.resolve("db"));
        try {
            requireOpen();
        } catch (SQLException notYet) {
            LOG.error("the database could not be opened again: {}", String.valueOf(notYet.getMessage()).lines().findFirst().orElse(""));
        }
    }

    private void writeAtOnce() throws SQLException {
        try (Statement sql = held.createStatement()) {
            sql.execute("set write_delay 0");
            try (ResultSet rows = sql
                .executeQuery("select setting_value from information_schema.settings where setting_name = 'WRITE_DELAY'")) {
                if (!rows.next() || !rows.getString(1).equals("0")) {
                    throw new IllegalStateException("the database does not write at once what it answers with success");
                }
            }
        }
    }

    @PreDestroy
    synchronized void close() throws SQLException {
        stopped = true;
        if (lookout != null) {
            lookout.close();
        }
        if (held != null) {
            held.close();
        }
    }
}
