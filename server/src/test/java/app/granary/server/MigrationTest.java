package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.server.journal.JournalCheck;
import app.granary.server.journal.SealOldLines;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationVersion;
import org.junit.jupiter.api.Test;

/** Migrations over a database that holds data of the version before: nothing is lost. */
class MigrationTest {
    private static final String URL = "jdbc:h2:mem:migration;DB_CLOSE_DELAY=-1";

    private static Flyway flyway(String target) {
        return Flyway.configure().dataSource(URL, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines()).target(target.equals("latest") ? MigrationVersion.LATEST : MigrationVersion.fromVersion(target)).load();
    }

    private static long count(Statement sql, String table) throws SQLException {
        try (ResultSet rows = sql.executeQuery("select count(*) from " + table)) {
            rows.next();
            return rows.getLong(1);
        }
    }

    @Test
    void whatIsSaidOfDestinationsStaysWhenMoreCanBeSaid() throws SQLException {
        String url = "jdbc:h2:mem:destinations;DB_CLOSE_DELAY=-1";
        Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines()).target("4").load().migrate();
        try (Connection connection = DriverManager.getConnection(url, "sa", ""); Statement sql = connection.createStatement()) {
            sql.execute("insert into destination (id, name, place_kind, place, place_since, rotation, eject_note, health_note, capacity_bytes, free_bytes, write_rate_bytes, measured_at, version) "
                + "values ('peg-1', 'PEG-1', 'SAFE', 'shelf 2', now(), 'weekly pair', 'eject first', 'two bad sectors', 500, 300, 20, now(), 7)");
            Flyway.configure().dataSource(url, "sa", "").locations("classpath:db/migration").javaMigrations(new SealOldLines()).load().migrate();
            try (ResultSet row = sql.executeQuery("select * from destination")) {
                assertTrue(row.next());
                assertEquals("two bad sectors", row.getString("health_note"));
                assertEquals("", row.getString("shared_link"));
                assertEquals("", row.getString("only_for"));
                assertEquals(false, row.getBoolean("leaves_building"));
                assertEquals(7, row.getLong("version"));
            }
        }
    }

    @Test
    void whatTheFirstVersionKeptIsThereAfterTheLast() throws SQLException {
        flyway("1").migrate();
        try (Connection connection = DriverManager.getConnection(URL, "sa", ""); Statement sql = connection.createStatement()) {
            sql.execute("insert into account values ('ada', 'x', 'TECHNICIAN', now())");
            sql.execute("insert into image values (random_uuid(), 'a', 'datum-1', 'DATUM', 'disk', 's', 'peg-1', 'PEG-1', now(), 'ada', 'zstd', 3, 1, 1, 1, 1, 1, 1)");
            for (int i = 0; i < 3; i++) {
                sql.execute("insert into journal_entry (at, account, action, subject, result, sentence) values (now(), 'ada', 'capture', 'DATUM', 'DONE', 'made " + i + "')");
            }
            sql.execute("delete from journal_entry where sentence = 'made 0'"); // as a transaction that did not come to its end left a gap
            assertTrue(flyway("latest").migrate().migrationsExecuted > 0);
            assertEquals(2, count(sql, "journal_entry"));
            assertEquals("2 lines, and each is what was written.", JournalCheck.run(connection).sentence().replaceAll(" The last seal.*", ""));
            for (String table : new String[] {"account", "image"}) {
                assertEquals(1, count(sql, table), table);
            }
            assertEquals(0, count(sql, "computer"));
            assertTrue(flyway("latest").validateWithResult().validationSuccessful);
        }
    }
}
