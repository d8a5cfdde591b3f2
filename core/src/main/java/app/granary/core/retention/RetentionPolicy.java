package app.granary.core.retention;

import java.util.ArrayList;
import java.util.List;

/**
 * What is kept of one disk's images.
 *
 * @param keep        how many: the last, and the newest of days, weeks, months and years; all zero keeps every one
 * @param minimumDays an image younger than so many days stays whatever else holds; 0 to 9999
 * @param maximumDays an image older than so many days does not stay for being one of the last, or the newest of its period; 0 for no such
 *                    limit
 * @param leastProven so many of the newest proven ones stay however old they are; 1 to 999, since the last one proven good never goes
 */
public record RetentionPolicy(Keep keep, int minimumDays, int maximumDays, int leastProven) {
    public static final int MOST_DAYS = 9999;
    public static final RetentionPolicy ALL = new RetentionPolicy(Keep.ALL, 0, 0, 1);

    public RetentionPolicy {
        if (minimumDays < 0 || minimumDays > MOST_DAYS || maximumDays < 0 || maximumDays > MOST_DAYS || leastProven < 1
            || leastProven > Keep.MOST
            || maximumDays > 0 && maximumDays < minimumDays) {
            throw new IllegalArgumentException(minimumDays + " to " + maximumDays + " days, " + leastProven + " proven");
        }
    }

    /** Whether it ever lets an image go. */
    public boolean releases() {
        return !keep.equals(Keep.ALL) || maximumDays > 0;
    }

    /** As a sentence. */
    public String words() {
        if (!releases()) {
            return "Every image is kept.";
        }
        List<String> out = new ArrayList<>();
        out.add(keep.equals(Keep.ALL) ? "Every image is kept" : "Kept are " + counted());
        if (minimumDays > 0) {
            out.add("nothing younger than " + days(minimumDays) + " goes");
        }
        if (maximumDays > 0) {
            out.add((keep.equals(Keep.ALL) ? "until it is older than " : "nothing older than ") + days(maximumDays)
                + (keep.equals(Keep.ALL) ? "" : " stays for that"));
        }
        out.add(leastProven == 1 ? "and the newest proven one always stays" : "and the newest " + leastProven + " proven ones always stay");
        return String.join(", ", out) + ".";
    }

    private String counted() {
        List<String> out = new ArrayList<>();
        if (keep.last() > 0) {
            out.add(keep.last() == 1 ? "the last one" : "the last " + keep.last());
        }
        List<String> periods = new ArrayList<>();
        period(periods, keep.daily(), "day");
        period(periods, keep.weekly(), "week");
        period(periods, keep.monthly(), "month");
        period(periods, keep.yearly(), "year");
        if (!periods.isEmpty()) {
            out.add("the newest proven of " + (periods.size() == 1 ? periods.get(0)
                : String.join(", ", periods.subList(0, periods.size() - 1)) + " and " + periods.get(periods.size() - 1)));
        }
        return String.join(" and ", out);
    }

    private static void period(List<String> out, int count, String word) {
        if (count > 0) {
            out.add(count + " " + word + (count == 1 ? "" : "s"));
        }
    }

    private static String days(int count) {
        return count + (count == 1 ? " day" : " days");
    }
}
