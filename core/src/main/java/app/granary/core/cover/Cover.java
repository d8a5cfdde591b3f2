package app.granary.core.cover;

import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Optional;

/**
 * How a disk stands against its plan.
 *
 * @param state the first that applies, in the order of {@link State}
 * @param words the same in a few words, with the days
 */
public record Cover(State state, String words) {
    public enum State {
        /** Its plan wanted an image before tonight. */
        LATE,
        /** There is no image of it. */
        NEVER,
        /** There are images, and none is proven. */
        UNPROVEN,
        /** Those that are proven lack a part of the disk. */
        PARTLY,
        /** Its plan wants one tonight. */
        DUE,
        /** No plan says when the next is wanted. */
        UNPLANNED,
        COVERED;

        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /**
     * @param any     whether there is an image that is not damaged
     * @param proven  whether one of them is proven
     * @param partly  what the proven ones lack, in words; an empty string where one holds the whole disk
     * @param planned whether a plan is for it
     * @param due     the night the plan wants the next one; empty when only by hand
     * @param tonight the night that is now or comes next
     */
    public static Cover of(boolean any, boolean proven, String partly, boolean planned, Optional<LocalDate> due, LocalDate tonight) {
        long late = due.map(day -> ChronoUnit.DAYS.between(day, tonight)).orElse(-1L);
        if (late > 0) {
            return new Cover(State.LATE, "due " + late + (late == 1 ? " day" : " days") + " ago"
                + (!any ? ", and there is no image yet" : partly.isEmpty() ? "" : "; " + partly));
        }
        if (!any) {
            return new Cover(State.NEVER, "no image yet" + (late == 0 ? ", due tonight" : planned ? "" : ", and no plan"));
        }
        if (!proven) {
            return new Cover(State.UNPROVEN, "no image of it is proven" + (late == 0 ? ", due tonight" : ""));
        }
        if (!partly.isEmpty()) {
            return new Cover(State.PARTLY, partly + (late == 0 ? ", due tonight" : ""));
        }
        if (late == 0) {
            return new Cover(State.DUE, "due tonight");
        }
        if (!planned) {
            return new Cover(State.UNPLANNED, "no plan says when the next is due");
        }
        return new Cover(State.COVERED,
            due.map(day -> -late == 1 ? "next due tomorrow" : "next due in " + ChronoUnit.DAYS.between(tonight, day) + " days")
                .orElse("only when asked for"));
    }
}
