package app.granary.server.journal;

import app.granary.core.journal.JournalChain;
import app.granary.core.journal.JournalLine;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.flywaydb.core.api.MigrationVersion;
import org.flywaydb.core.api.migration.Context;
import org.flywaydb.core.api.migration.JavaMigration;
import org.springframework.stereotype.Component;

/** Numbers the lines of a journal from before without gaps, and seals them as they stand. */
@Component
public class SealOldLines implements JavaMigration {
    private static final int AT_ONCE = 1000;

    @Override
    public MigrationVersion getVersion() {
        return MigrationVersion.fromVersion("9");
    }

    @Override
    public String getDescription() {
        return "seal old lines";
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
    public void migrate(Context context) throws SQLException {
        String seal = JournalChain.START;
        long number = 0;
        try (PreparedStatement change = context.getConnection().prepareStatement("update journal_entry set id = ?, seal = ? where id = ?");
            Statement sql = context.getConnection().createStatement()) {
            List<Line> lines = after(context, 0);
            while (!lines.isEmpty()) {
                for (Line each : lines) {
                    number++;
                    seal = JournalChain.seal(seal, each.numbered(number));
                    change.setLong(1, number);
                    change.setString(2, seal);
                    change.setLong(3, each.id);
                    change.executeUpdate();
                }
                lines = after(context, lines.get(lines.size() - 1).id);
            }
            sql.executeUpdate("insert into journal_head (id, number, seal) values (1, " + number + ", '" + seal + "')");
        }
    }

    private record Line(long id, JournalLine line) {
        JournalLine numbered(long number) {
            return new JournalLine(number, line.at(), line.account(), line.action(), line.subject(), line.devices(), line.result(),
                line.sentence(), line.figures(), line.evidence(), line.corrects());
        }
    }

    private static List<Line> after(Context context, long id) throws SQLException {
        List<Line> out = new ArrayList<>();
        try (PreparedStatement query = context.getConnection().prepareStatement(JournalCheck.LINES)) {
            query.setLong(1, id);
            query.setInt(2, AT_ONCE);
            try (ResultSet rows = query.executeQuery()) {
                while (rows.next()) {
                    JournalLine line = JournalCheck.line(rows);
                    out.add(new Line(line.number(), line));
                }
            }
        }
        return out;
    }
}
