package app.granary.core.measure;

import java.math.BigDecimal;
import java.math.RoundingMode;

/** Formats and parses byte counts. The browser's formatter is held to the same table of cases ({@code sizes.json}). */
public final class Sizes {
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
        BigDecimal value = BigDecimal.valueOf(bytes);
        BigDecimal base = BigDecimal.valueOf(reading.base());
        while (power < reading.largestPower() && rounded(value, power).compareTo(base) >= 0) {
            value = value.divide(base);
            power++;
        }
        return rounded(value, power).toPlainString() + " " + reading.unit(power);
    }

    /** {@link #format} in the decimal reading, which is the one messages use. */
    public static String decimal(long bytes) {
        return format(bytes, Reading.DECIMAL);
    }

    private static BigDecimal rounded(BigDecimal value, int power) {
        int digits = 0;
        if (power > 0) {
            double size = value.doubleValue();
            digits = size < 9.995 ? 2 : size < 99.95 ? 1 : 0;
        }
        return value.setScale(digits, RoundingMode.HALF_UP);
    }
}
