package app.granary.core.plan;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The nights a plan is due on. A due date on which the office is closed moves to the next open day when the plan needs a person to boot its
 * computer, and so does one whose window does not exist that night because the clocks change; two dates that meet are one.
 */
public final class DueDates {
    private static final int LONGEST_AHEAD_DAYS = 800;

    private final Plan plan;
    private final LocalDate began;
    private final OfficeCalendar office;

    /** @param began the day the plan was made, from which its days are counted */
    public DueDates(Plan plan, LocalDate began, OfficeCalendar office) {
        this.plan = plan;
        this.began = began;
        this.office = office;
    }

    /** At most so many, from that day on; fewer when the plan is due only by hand. */
    public List<LocalDate> from(LocalDate day, int count) {
        List<LocalDate> out = new ArrayList<>();
        // a date moved past closed days may come from before
        LocalDate end = day.plusDays(LONGEST_AHEAD_DAYS);
        for (LocalDate at = day.minusDays(31); out.size() < count && at.isBefore(end); at = at.plusDays(1)) {
            if (plan.rhythm().dueOn(at, began)) {
                night(at).filter(night -> !night.isBefore(day) && !out.contains(night)).ifPresent(out::add);
            }
        }
        return out;
    }

    /**
     * The date an image is due on, given the night of the newest one: the first due date after it, so one that lies in the past is overdue.
     *
     * @param newest empty when there is none yet
     */
    public Optional<LocalDate> next(Optional<LocalDate> newest) {
        return from(newest.map(night -> night.plusDays(1)).orElse(began), 1).stream().findFirst();
    }

    private Optional<LocalDate> night(LocalDate due) {
        Optional<LocalDate> open = plan.booted() ? office.openFrom(due) : Optional.of(due);
        return open.flatMap(day -> plan.window().on(day, office).isPresent() ? Optional.of(day)
            : plan.booted() ? office.openFrom(day.plusDays(1)) : Optional.of(day.plusDays(1)));
    }
}
