package app.granary.server.destination;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.flywaydb.core.api.MigrationVersion;
import org.flywaydb.core.api.migration.Context;
import org.flywaydb.core.api.migration.JavaMigration;
import org.springframework.stereotype.Component;

/**
 * Drives that are kept for some computers are kept for them by id; a name that is no computer's any more keeps the drive for nobody else.
 */
@Component
public class KeptForById implements JavaMigration {
    @Override
    public MigrationVersion getVersion() {
        return MigrationVersion.fromVersion("17");
    }

    @Override
    public String getDescription() {
        return "kept for by id";
    }

    @Override
    public Integer getChecksum() {
        return null;
    }

    @Override
    public boolean canExecuteInTransaction() {
        return true;
    }

    @Override
    public void migrate(Context context) throws SQLException, IOException {
        Connection connection = context.getConnection();
        Map<String, String> ids = ids(connection);
        ObjectMapper json = new ObjectMapper();
        Map<String, String> changed = new HashMap<>();
        try (Statement sql = connection.createStatement(); ResultSet rows = sql.executeQuery("select id, only_for from destination")) {
            while (rows.next()) {
                List<String> kept = new ArrayList<>();
                for (String name : json.readValue(rows.getString(2), String[].class)) {
                    kept.add(ids.getOrDefault(name.toLowerCase(Locale.ROOT), name));
                }
                changed.put(rows.getString(1), json.writeValueAsString(kept));
            }
        }
        try (PreparedStatement update = connection.prepareStatement("update destination set only_for = ? where id = ?")) {
            for (Map.Entry<String, String> each : changed.entrySet()) {
                update.setString(1, each.getValue());
                update.setString(2, each.getKey());
                update.executeUpdate();
            }
        }
    }

    private static Map<String, String> ids(Connection connection) throws SQLException {
        Map<String, String> out = new HashMap<>();
        try (Statement sql = connection.createStatement();
            ResultSet rows = sql.executeQuery("select name, id from computer where retired_at is null")) {
            while (rows.next()) {
                out.put(rows.getString(1).toLowerCase(Locale.ROOT), rows.getString(2));
            }
        }
        return out;
    }
}
