package app.granary.server.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Reads all that a database holds, so that a damaged place shows before anybody works in it: H2 checks each page it reads by its own sum.
 */
final class Wholeness {
    private Wholeness() {
    }

    /** @throws SQLException at the first place that cannot be read */
    static void require(Connection database) throws SQLException {
        try (Statement sql = database.createStatement()) {
            for (String table : Rights.tables(sql)) {
                try (ResultSet rows = sql.executeQuery("select * from \"" + table + "\"")) {
                    int columns = rows.getMetaData().getColumnCount();
                    while (rows.next()) {
                        for (int i = 1; i <= columns; i++) {
                            rows.getObject(i);
                        }
                    }
                }
            }
        }
    }
}
