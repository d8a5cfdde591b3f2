package app.granary.core.retention;

import java.util.ArrayList;
import java.util.List;

/**
 * How many images stay: the last so many, and the newest of so many days, weeks, months and years (grandfather, father, son). Each 0 to
 * 999; all 0 keeps every one.
 */
public record Keep(int last, int daily, int weekly, int monthly, int yearly) {
    public static final int MOST = 999;
    public static final Keep ALL = new Keep(0, 0, 0, 0, 0);

    /** In words: {@code "the last 3, 7 days, 4 weeks, 12 months"}; {@code "all"} when nothing is ever released. */
    public String words() {
        List<String> out = new ArrayList<>();
        if (last > 0) {
            out.add("the last " + last);
        }
        add(out, daily, "day");
        add(out, weekly, "week");
        add(out, monthly, "month");
        add(out, yearly, "year");
        return out.isEmpty() ? "all" : String.join(", ", out);
    }

    private static void add(List<String> out, int count, String period) {
        if (count > 0) {
            out.add(count + " " + period + (count == 1 ? "" : "s"));
        }
    }

    public boolean inRange() {
        return List.of(last, daily, weekly, monthly, yearly).stream().allMatch(count -> count >= 0 && count <= MOST);
    }
}
