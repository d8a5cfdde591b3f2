package app.granary.server.database;

import java.sql.SQLException;
import java.sql.Statement;
import java.sql.ResultSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.flywaydb.core.api.callback.Callback;
import org.flywaydb.core.api.callback.Context;
import org.flywaydb.core.api.callback.Event;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * What the running program may do in its database: read, add, change and remove, but in the journal only read and add. The tables belong to
 * another user, which is used only when the program starts, to bring them up to date, and to copy the whole.
 */
@Component
public class Rights implements Callback {
    /** The user the program works as. */
    static final String WORKER = "WORKER";
    private static final Set<String> ONLY_GROWS = Set.of("JOURNAL_ENTRY");
    private static final Set<String> NOT_OURS = Set.of("flyway_schema_history");

    private final String password;

    /** @param password the worker's, of this home's keys: letters and digits */
    Rights(@Value("${spring.datasource.password}") String password) {
        this.password = password;
    }

    @Override
    public boolean supports(Event event, Context context) {
        return event == Event.AFTER_MIGRATE;
    }

    @Override
    public boolean canHandleInTransaction(Event event, Context context) {
        return true;
    }

    @Override
    public String getCallbackName() {
        return "rights";
    }

    @Override
    public void handle(Event event, Context context) {
        try (Statement sql = context.getConnection().createStatement()) {
            sql.execute("create user if not exists " + WORKER + " password ''");
            sql.execute("alter user " + WORKER + " set password '" + password + "'");
            for (String table : tables(sql)) {
                if (!NOT_OURS.contains(table)) {
                    sql.execute("revoke all on " + table + " from " + WORKER);
                    sql.execute("grant " + (ONLY_GROWS.contains(table) ? "select, insert" : "select, insert, update, delete") + " on "
                        + table + " to " + WORKER);
                }
            }
        } catch (SQLException refused) {
            throw new IllegalStateException("the rights in the database could not be set", refused);
        }
    }

    /** All that hold data, Flyway's own too. */
    static List<String> tables(Statement sql) throws SQLException {
        List<String> out = new ArrayList<>();
        try (ResultSet rows = sql
            .executeQuery("select table_name from information_schema.tables where table_schema = 'PUBLIC' and table_type = 'BASE TABLE'")) {
            while (rows.next()) {
                out.add(rows.getString(1));
            }
        }
        return out;
    }
}
