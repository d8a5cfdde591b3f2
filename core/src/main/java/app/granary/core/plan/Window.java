package app.granary.core.plan;

import app.granary.core.night.Span;
import app.granary.core.measure.Moments;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.zone.ZoneOffsetTransition;
import java.util.Optional;

/**
 * When a plan may run, by the office's clock. A window whose end is not after its beginning crosses midnight; one that is as long as a day
 * has both alike.
 *
 * @param from opens
 * @param to   closes
 */
public record Window(LocalTime from, LocalTime to) {

    public String words() {
        return from.equals(to) ? "at any time" : "between " + Moments.clock(from) + " and " + Moments.clock(to);
    }

    /**
     * The window of one night. The night of a day begins when the office opens that day and ends when it opens the next, so a window that
     * opens before the office does lies on the next calendar day.
     *
     * <p>On days on which clocks change: a time that does not exist counts as the moment of the change, and of a time that exists twice a
     * window opens at the first and closes at the second, so that it is never shorter than it reads.
     *
     * @return empty when the window does not exist that night, since the clocks leap over all of it
     */
    public Optional<Span> on(LocalDate night, OfficeCalendar office) {
        LocalDate day = office.dayOf(night, from);
        Instant opens = moment(day.atTime(from), office.zone(), true);
        Instant closes = moment((to.isAfter(from) ? day : day.plusDays(1)).atTime(to), office.zone(), false);
        return opens.isBefore(closes) ? Optional.of(new Span(opens, closes)) : Optional.empty();
    }

    static Instant moment(LocalDateTime local, ZoneId zone, boolean first) {
        ZoneOffsetTransition change = zone.getRules().getTransition(local);
        if (change == null) {
            return local.atZone(zone).toInstant();
        }
        if (change.isGap()) {
            return change.getInstant();
        }
        return local.toInstant(first ? change.getOffsetBefore() : change.getOffsetAfter());
    }
}
