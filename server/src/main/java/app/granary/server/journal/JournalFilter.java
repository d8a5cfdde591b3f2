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

    /** As it stands in the small letters of a line. */
    String small() {
        return text.strip().toLowerCase(Locale.ROOT);
    }

    private String pattern() {
        return text.isBlank() ? "" : "%" + small().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    /** Newest first, of the lines between two numbers, both included. */
    List<JournalEntry> newest(JournalRepository repository, long first, long last, int count) {
        return repository.newest(first, last, account, action, pattern(), from, to, PageRequest.of(0, count));
    }

    List<JournalRepository.Ended> ended(JournalRepository repository, long first, long last) {
        return repository.ended(first, last, account, action, pattern(), from, to);
    }

    /** Oldest first. */
    List<JournalEntry> oldest(JournalRepository repository, long first, long last, int count) {
        return repository.oldest(first, last, account, action, pattern(), from, to, PageRequest.of(0, count));
    }
}
