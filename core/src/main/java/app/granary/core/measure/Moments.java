package app.granary.core.measure;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAccessor;
import java.util.Locale;

/** Days and moments as people read them. The browser's formatter is held to the same table of cases ({@code times.json}). */
public final class Moments {
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM", Locale.ENGLISH);
    private static final DateTimeFormatter FULL_DAY = DateTimeFormatter.ofPattern("EEE d MMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);

    private Moments() {
    }

    /** {@code "Tue 24 Nov"}. */
    public static String day(LocalDate day) {
        return DAY.format(day);
    }

    /** {@code "Tue 24 Nov 2026"}. */
    public static String fullDay(LocalDate day) {
        return FULL_DAY.format(day);
    }

    /** {@code "Tue 24 Nov 2026"}. */
    public static String fullDay(Instant at, ZoneId zone) {
        return FULL_DAY.format(at.atZone(zone));
    }

    /** {@code "Tue 24 Nov 2026, 02:14"}. */
    public static String full(Instant at, ZoneId zone) {
        return fullDay(at, zone) + ", " + clock(at, zone);
    }

    /** {@code "18:30"}. */
    public static String clock(Instant at, ZoneId zone) {
        return clock(at.atZone(zone));
    }

    /** {@code "18:30"}, of anything with a time of day. */
    public static String clock(TemporalAccessor time) {
        return CLOCK.format(time);
    }
}
