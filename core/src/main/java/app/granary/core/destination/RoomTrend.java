package app.granary.core.destination;

import java.util.List;
import java.util.Optional;
import org.apache.commons.statistics.distribution.TDistribution;

/**
 * When a destination will be full, from how its stored bytes grew: least squares over its own readings, with a 90 % interval of the slope
 * by Student's t (NIST/SEMATECH e-Handbook, 4.1.4.1, from memory).
 *
 * @param bytesPerDay growth, 0 or less when it does not grow
 * @param daysLow     days until full at the fastest growth of the interval
 * @param days        at the likely growth; empty when it does not grow
 * @param daysHigh    at the slowest; empty when growth may well be none
 */
public record RoomTrend(double bytesPerDay, Optional<Double> daysLow, Optional<Double> days, Optional<Double> daysHigh) {
    private static final int LEAST_READINGS = 3;
    private static final double UPPER_TAIL = 0.95;

    /**
     * @param day         when, in days from any origin
     * @param storedBytes what lay there
     */
    public record Reading(double day, long storedBytes) {
    }

    /**
     * @param readings  in any order
     * @param freeBytes room left now, reserve taken off; 0 or less when it is full
     * @return empty with fewer than three readings, or all of one moment
     */
    public static Optional<RoomTrend> of(List<Reading> readings, long freeBytes) {
        int n = readings.size();
        double meanDay = readings.stream().mapToDouble(Reading::day).average().orElse(0);
        double meanStored = readings.stream().mapToDouble(Reading::storedBytes).average().orElse(0);
        double across = 0;
        double together = 0;
        for (Reading each : readings) {
            across += (each.day() - meanDay) * (each.day() - meanDay);
            together += (each.day() - meanDay) * (each.storedBytes() - meanStored);
        }
        if (n < LEAST_READINGS || across == 0) {
            return Optional.empty();
        }
        double slope = together / across;
        double residual = 0;
        for (Reading each : readings) {
            double off = each.storedBytes() - meanStored - slope * (each.day() - meanDay);
            residual += off * off;
        }
        double reach = TDistribution.of(n - 2).inverseCumulativeProbability(UPPER_TAIL) * Math.sqrt(residual / (n - 2) / across);
        return Optional.of(new RoomTrend(slope, days(freeBytes, slope + reach), days(freeBytes, slope), days(freeBytes, slope - reach)));
    }

    private static Optional<Double> days(long freeBytes, double bytesPerDay) {
        return bytesPerDay <= 0 ? Optional.empty() : Optional.of(Math.max(0, freeBytes) / bytesPerDay);
    }
}
