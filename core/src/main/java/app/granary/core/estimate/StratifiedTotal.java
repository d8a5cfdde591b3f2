package app.granary.core.estimate;

import java.util.List;
import org.apache.commons.statistics.distribution.TDistribution;

/**
 * The total over all strata with its 90 % interval: {@code sum N_h mean_h}, standard error from
 * {@code sum N_h^2 s_h^2 / n_h (1 - n_h/N_h)}, Student's t with Satterthwaite's degrees of freedom (Cochran, Sampling Techniques, ch. 5,
 * from memory).
 *
 * @param low              lower end, bytes; never below what was seen
 * @param likely           the unbiased total, bytes
 * @param high             upper end, bytes
 * @param standardError    of the total, bytes
 * @param degreesOfFreedom effective; {@link Double#POSITIVE_INFINITY} when nothing was left to chance
 */
public record StratifiedTotal(double low, double likely, double high, double standardError, double degreesOfFreedom) {
    /** Nine times in ten the true size lies within: 5 % on either side. */
    private static final double UPPER_TAIL = 0.95;

    public static StratifiedTotal of(List<Stratum> strata) {
        double total = 0;
        double seen = 0;
        double variance = 0;
        double weights = 0;
        for (Stratum stratum : strata) {
            total += stratum.chunks() * stratum.mean();
            seen += stratum.stored().stream().mapToLong(Long::longValue).sum();
            double part = stratum.varianceOfTotal();
            variance += part;
            if (part > 0) {
                weights += part * part / Math.max(1, stratum.stored().size() - 1);
            }
        }
        if (variance == 0) {
            return new StratifiedTotal(total, total, total, 0, Double.POSITIVE_INFINITY);
        }
        double freedom = Math.max(1, variance * variance / weights);
        double error = Math.sqrt(variance);
        double reach = TDistribution.of(freedom).inverseCumulativeProbability(UPPER_TAIL) * error;
        return new StratifiedTotal(Math.max(seen, total - reach), total, total + reach, error, freedom);
    }
}
