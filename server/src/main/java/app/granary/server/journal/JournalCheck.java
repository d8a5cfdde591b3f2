package app.granary.server.journal;

import app.granary.core.journal.JournalChain;
import app.granary.core.journal.JournalLine;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Reads a journal from its first line to its last, past everything that could hide a change, and holds it against its seals. */
public final class JournalCheck {
    static final String LINES = "select id, at, account, action, subject, devices, result, sentence, figures, evidence, corrects, seal "
        + "from journal_entry where id > ? order by id limit ?";
    private static final int AT_ONCE = 5000;

    private JournalCheck() {
    }

    /**
     * @param lines  how many there are
     * @param seal   of the last one; what was printed or exported earlier can be looked for in the seals of the lines
     * @param breaks where it is not what was written; empty when it is
     */
    public record Outcome(long lines, String seal, List<JournalChain.Break> breaks) {
        public boolean whole() {
            return breaks.isEmpty();
        }

        /** The same, with what else was found. */
        public Outcome with(List<JournalChain.Break> more) {
            List<JournalChain.Break> all = new ArrayList<>(breaks);
            all.addAll(more);
            return new Outcome(lines, seal, all);
        }

        public String sentence() {
            return whole()
                ? (lines == 1 ? "One line, and it is" : lines + " lines, and each is") + " what was written. The last seal is "
                    + seal.substring(0, 16) + "."
                : "The journal was tampered with, or its file is damaged: " + breaks.get(0).sentence()
                    + (breaks.size() == 1 ? "" : " " + (breaks.size() - 1) + " more like it.")
                    + " Keep this database as it is, and compare with its copies.";
        }
    }

    static JournalLine line(ResultSet rows) throws SQLException {
        return new JournalLine(rows.getLong("id"), rows.getObject("at", OffsetDateTime.class).toInstant(), rows.getString("account"),
            rows.getString("action"), rows.getString("subject"),
            rows.getString("devices"), rows.getString("result").toLowerCase(Locale.ROOT), rows.getString("sentence"),
            rows.getString("figures"), rows.getString("evidence"), rows.getLong("corrects"));
    }

    public static Outcome run(Connection database) throws SQLException {
        JournalChain chain = new JournalChain();
        long last = Long.MIN_VALUE;
        int read = AT_ONCE;
        while (read == AT_ONCE) {
            read = 0;
            try (PreparedStatement query = database.prepareStatement(LINES)) {
                query.setLong(1, last);
                query.setInt(2, AT_ONCE);
                try (ResultSet rows = query.executeQuery()) {
                    while (rows.next()) {
                        chain.next(line(rows), rows.getString("seal"));
                        last = rows.getLong("id");
                        read++;
                    }
                }
            }
        }
        try (Statement sql = database.createStatement();
            ResultSet head = sql.executeQuery("select number, seal from journal_head where id = 1")) {
            boolean there = head.next();
            List<JournalChain.Break> breaks = chain.end(there ? head.getLong("number") : 0,
                there ? head.getString("seal") : JournalChain.START);
            return new Outcome(chain.lines(), chain.seal(), breaks);
        }
    }
}
