package app.granary.core.measure;

/** Formats and parses byte counts. The browser's formatter is held to the same table of cases ({@code sizes.json}). */
public final class Sizes {
    private static final long HUNDRED = 100;

    private Sizes() {
    }

    /**
     * A byte count in the largest unit that leaves at least 1, with three significant digits below 100 and whole units from there on.
     *
     * @param bytes   0 or more
     * @param reading decimal or binary
     * @return for example {@code "232 GB"}, {@code "1.00 TB"}, {@code "0 B"}
     */
    public static String format(long bytes, Reading reading) {
        if (bytes < 0) {
            throw new IllegalArgumentException("bytes must not be negative: " + bytes);
        }
        int power = 0;
        long unit = 1;
        long hundredths = 0;
        while (power < reading.largestPower() && (power == 0 ? bytes >= reading.base() : hundredths >= reading.base() * HUNDRED)) {
            power++;
            unit *= reading.base();
            hundredths = rounded(bytes, unit, digits(bytes, unit));
        }
        if (power == 0) {
            return bytes + " " + reading.unit(0);
        }
        int digits = digits(bytes, unit);
        String whole = Long.toString(hundredths / HUNDRED);
        long rest = hundredths % HUNDRED;
        return whole + (digits == 0 ? "" : digits == 1 ? "." + rest / 10 : (rest < 10 ? ".0" : ".") + rest) + " " + reading.unit(power);
    }

    /** {@link #format} in the decimal reading, which is the one messages use. */
    public static String decimal(long bytes) {
        return format(bytes, Reading.DECIMAL);
    }

    /** Three significant digits below 100. */
    private static int digits(long bytes, long unit) {
        double size = (double) bytes / unit;
        return size < 9.995 ? 2 : size < 99.95 ? 1 : 0;
    }

    /**
     * Hundredths of the unit, rounded half up to so many digits behind the point: whole numbers only, since pages show thousands of sizes.
     */
    private static long rounded(long bytes, long unit, int digits) {
        long value = bytes / unit;
        long rest = bytes % unit;
        long step = HUNDRED;
        for (int i = 0; i < digits; i++) {
            // ten times what is less than 2^60 needs the sign's bit too
            value = 10 * value + Long.divideUnsigned(10 * rest, unit);
            rest = Long.remainderUnsigned(10 * rest, unit);
            step /= 10;
        }
        return (2 * rest >= unit ? value + 1 : value) * step;
    }
}
