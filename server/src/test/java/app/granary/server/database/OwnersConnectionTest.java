package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.server.ServerTestBase;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** While Granary runs its owner's connection is open, so that the database is never closed and opened again in the middle of a start. */
class OwnersConnectionTest extends ServerTestBase {
    @Autowired
    private Flyway flyway;

    @Test
    void theOwnerIsConnectedAsLongAsGranaryRuns() throws SQLException {
        try (Connection owner = flyway.getConfiguration().getDataSource().getConnection();
            Statement sql = owner.createStatement();
            ResultSet rows = sql.executeQuery("select count(*) from information_schema.sessions where user_name = 'GRANARY'")) {
            assertTrue(rows.next() && rows.getInt(1) >= 2, "this connection, and the one that is held");
        }
    }
}
