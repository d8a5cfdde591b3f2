package app.granary.core.retention;

import java.util.ArrayList;
import java.util.List;

/**
 * What a plan, or the office for plans that say nothing of their own, wants kept. Numbers are as a person gave them; {@link #inRange} tells
 * whether they make a policy.
 *
 * @param asOffice  whether the office's own choice holds instead of what is here; never for the office itself
 * @param automatic whether what is not kept is released by itself; otherwise only when a person says so
 */
public record Keeping(Keep keep, int minimumDays, int maximumDays, int leastProven, boolean asOffice, boolean automatic) {
    public static final Keeping ALL = of(Keep.ALL);
    /** A week of days, a month of weeks, a year of months (common practice, no source). */
    public static final Keeping USUAL = of(new Keep(0, 7, 4, 12, 0));

    public static Keeping of(Keep keep) {
        return new Keeping(keep, 0, 0, 1, false, false);
    }

    public boolean inRange() {
        return keep.inRange() && minimumDays >= 0 && minimumDays <= RetentionPolicy.MOST_DAYS && maximumDays >= 0
            && maximumDays <= RetentionPolicy.MOST_DAYS
            && (maximumDays == 0 || maximumDays >= minimumDays) && leastProven >= 1 && leastProven <= Keep.MOST;
    }

    /** @throws IllegalArgumentException when it is not in range */
    public RetentionPolicy policy() {
        return new RetentionPolicy(keep, minimumDays, maximumDays, leastProven);
    }

    /** In a few words: {@code "7 days, 4 weeks, 12 months"}. */
    public String words() {
        if (asOffice) {
            return "as the office does";
        }
        List<String> out = new ArrayList<>(List.of(keep.words()));
        if (minimumDays > 0) {
            out.add("nothing younger than " + minimumDays + " days goes");
        }
        if (maximumDays > 0) {
            out.add("at most " + maximumDays + " days old");
        }
        if (leastProven > 1) {
            out.add("at least " + leastProven + " proven");
        }
        return String.join(", ", out) + (automatic ? "; the rest is released by itself" : "");
    }
}
