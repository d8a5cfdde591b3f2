package app.granary.server.journal;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import org.springframework.data.domain.PageRequest;

/**
 * Which lines are wanted.
 *
 * @param account an empty string for anyone's
 * @param action  an empty string for any
 * @param text    words that stand in the line, case not counted; an empty string for any
 */
record JournalFilter(String account, String action, String text, Instant from, Instant to) {
    /** @param from first and last day, null for no limit */
    static JournalFilter of(String account, String action, String text, LocalDate from, LocalDate to, ZoneId zone) {
        return new JournalFilter(account, action, text, from == null ? Instant.EPOCH : from.atStartOfDay(zone).toInstant(),
            to == null ? Instant.parse("9999-01-01T00:00:00Z") : to.plusDays(1).atStartOfDay(zone).toInstant());
    }

    private String pattern() {
        return text.isBlank() ? "" : "%" + text.strip().toLowerCase(Locale.ROOT).replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    List<JournalEntry> before(JournalRepository repository, long id, int count) {
        return repository.before(id, account, action, pattern(), from, to, PageRequest.of(0, count));
    }

    List<JournalEntry> after(JournalRepository repository, long id, int count) {
        return repository.after(id, account, action, pattern(), from, to, PageRequest.of(0, count));
    }
}
