package app.granary.core.plan;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Optional;
import java.util.Set;

/**
 * When the office is open, which is when a person is there to boot computers.
 *
 * @param zone        its time zone
 * @param opens       in the morning
 * @param closes      in the evening, after it opens
 * @param workingDays days of the week it is open on; at least one
 * @param closedDays  days on which it is closed all the same
 */
public record OfficeCalendar(ZoneId zone, LocalTime opens, LocalTime closes, Set<DayOfWeek> workingDays, Set<LocalDate> closedDays) {
    /** No office is closed longer than this without a day in between; a search for the next open day ends here. */
    private static final int LONGEST_CLOSED_DAYS = 400;

    public OfficeCalendar {
        workingDays = Set.copyOf(workingDays);
        closedDays = Set.copyOf(closedDays);
        if (!opens.isBefore(closes) || workingDays.isEmpty()) {
            throw new IllegalArgumentException("an office opens before it closes, on one day of the week at least");
        }
    }

    public boolean open(LocalDate day) {
        return workingDays.contains(day.getDayOfWeek()) && !closedDays.contains(day);
    }

    /** That day if the office is open, or the next it is; empty when it is closed for longer than a year. */
    public Optional<LocalDate> openFrom(LocalDate day) {
        for (int i = 0; i < LONGEST_CLOSED_DAYS; i++) {
            if (open(day.plusDays(i))) {
                return Optional.of(day.plusDays(i));
            }
        }
        return Optional.empty();
    }

    /** The night a moment belongs to: it begins when the office opens and ends when it opens the next day. */
    public LocalDate nightOf(Instant at) {
        LocalDate day = at.atZone(zone).toLocalDate();
        return at.isBefore(opening(day)) ? day.minusDays(1) : day;
    }

    /** The calendar day on which the office's clock shows that time during a night. */
    LocalDate dayOf(LocalDate night, LocalTime time) {
        return time.isBefore(opens) ? night.plusDays(1) : night;
    }

    /**
     * The moment of a night at which the office's clock shows that time: the first one where it shows it twice, the moment of the change
     * where it leaps over it.
     */
    public Instant moment(LocalDate night, LocalTime time) {
        return Window.moment(dayOf(night, time).atTime(time), zone, true);
    }

    public Instant opening(LocalDate day) {
        return day.atTime(opens).atZone(zone).toInstant();
    }

    public Instant closing(LocalDate day) {
        return day.atTime(closes).atZone(zone).toInstant();
    }
}
