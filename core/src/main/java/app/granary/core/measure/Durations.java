package app.granary.core.measure;

/** Lengths of time as people say them. The browser's formatter is held to the same table of cases ({@code times.json}). */
public final class Durations {
    private static final long MINUTE = 60;

    private Durations() {
    }

    /**
     * What is not nothing is a second at least; under 90 seconds in seconds, under 90 minutes in minutes, else in hours and minutes:
     * {@code "40 s"}, {@code "12 min"}, {@code "1 h 5 min"}.
     */
    public static String length(double seconds) {
        long whole = seconds > 0 ? Math.max(1, Math.round(seconds)) : 0;
        if (whole < 90) {
            return whole + " s";
        }
        long minutes = Math.round(whole / (double) MINUTE);
        if (minutes < 90) {
            return minutes + " min";
        }
        return minutes / MINUTE + " h" + (minutes % MINUTE == 0 ? "" : " " + minutes % MINUTE + " min");
    }

    /** {@code "2 h 10 min to 2 h 50 min"}, {@code "10 to 25 min"}; one length when both read the same. */
    public static String range(double lowSeconds, double highSeconds) {
        String low = length(lowSeconds);
        String high = length(highSeconds);
        if (low.equals(high)) {
            return low;
        }
        String unit = high.substring(high.lastIndexOf(' '));
        return low.endsWith(unit) && !(low + high).contains(" h") ? low.substring(0, low.length() - unit.length()) + " to " + high
            : low + " to " + high;
    }
}
