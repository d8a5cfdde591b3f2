package app.granary.core.plan;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.format.TextStyle;
import java.time.temporal.ChronoUnit;
import java.util.Collections;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** How often an image is due, in days of the office's calendar. */
public sealed interface Rhythm {
    /** Whether it is due on that day, counted from the day the rhythm began. */
    boolean dueOn(LocalDate day, LocalDate began);

    /** In words, as within a sentence. */
    String words();

    /** Longest number of days between two due dates; 0 when it is never due by itself. */
    int longestGapDays();

    /** Only when a person asks for it. */
    record ByHand() implements Rhythm {
        @Override
        public boolean dueOn(LocalDate day, LocalDate began) {
            return false;
        }

        @Override
        public String words() {
            return "only when asked for";
        }

        @Override
        public int longestGapDays() {
            return 0;
        }
    }

    /** @param every 1 to 365 days */
    record Days(int every) implements Rhythm {
        public static final int MOST = 365;

        public Days {
            if (every < 1 || every > MOST) {
                throw new IllegalArgumentException("every must be 1 to 365 days: " + every);
            }
        }

        @Override
        public boolean dueOn(LocalDate day, LocalDate began) {
            long since = ChronoUnit.DAYS.between(began, day);
            return since >= 0 && since % every == 0;
        }

        @Override
        public String words() {
            return every == 1 ? "every day" : "every " + every + " days";
        }

        @Override
        public int longestGapDays() {
            return every;
        }
    }

    /** @param days at least one */
    record Weekly(SortedSet<DayOfWeek> days) implements Rhythm {
        public Weekly {
            if (days.isEmpty()) {
                throw new IllegalArgumentException("a weekly rhythm needs a day");
            }
            days = Collections.unmodifiableSortedSet(new TreeSet<>(days));
        }

        public static Weekly on(Set<DayOfWeek> days) {
            return new Weekly(new TreeSet<>(days));
        }

        @Override
        public boolean dueOn(LocalDate day, LocalDate began) {
            return !day.isBefore(began) && days.contains(day.getDayOfWeek());
        }

        @Override
        public String words() {
            if (days.size() == 7) {
                return "every day";
            }
            return days.equals(EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY)) ? "every weekday"
                : "every "
                    + days.stream().map(day -> day.getDisplayName(TextStyle.FULL, Locale.ENGLISH)).collect(Collectors.joining(" and "));
        }

        @Override
        public int longestGapDays() {
            int longest = 0;
            for (DayOfWeek day : days) {
                int gap = 1;
                while (!days.contains(day.plus(gap))) {
                    gap++;
                }
                longest = Math.max(longest, gap);
            }
            return longest;
        }
    }

    /** @param day of the month, 1 to 31; in a shorter month its last day */
    record Monthly(int day) implements Rhythm {
        public Monthly {
            if (day < 1 || day > 31) {
                throw new IllegalArgumentException("day must be 1 to 31: " + day);
            }
        }

        @Override
        public boolean dueOn(LocalDate date, LocalDate began) {
            return !date.isBefore(began) && date.getDayOfMonth() == Math.min(day, date.lengthOfMonth());
        }

        @Override
        public String words() {
            return day == 31 ? "on the last day of every month" : "on day " + day + " of every month";
        }

        @Override
        public int longestGapDays() {
            return 31;
        }
    }
}
