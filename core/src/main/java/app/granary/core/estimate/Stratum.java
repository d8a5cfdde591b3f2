package app.granary.core.estimate;

import java.util.List;

/**
 * One kind of chunk and what a simple random sample of it showed.
 *
 * @param name   what the chunks have in common, for the working
 * @param chunks how many there are, N
 * @param stored stored bytes of each sampled chunk, n of them, drawn without replacement
 */
public record Stratum(String name, long chunks, List<Long> stored) {
    public Stratum {
        stored = List.copyOf(stored);
        if (stored.size() > chunks || chunks > 0 && stored.isEmpty()) {
            throw new IllegalArgumentException("a sample of " + stored.size() + " from " + chunks + " chunks");
        }
    }

    /** Mean stored bytes per chunk; 0 for an empty stratum. */
    public double mean() {
        return stored.stream().mapToLong(Long::longValue).average().orElse(0);
    }

    /**
     * Sample variance with n - 1. One chunk of several tells nothing of how they differ: they are then taken to differ by as much as it is
     * large.
     */
    double variance() {
        double mean = mean();
        int n = stored.size();
        return n == 1 && chunks > 1 ? mean * mean : n < 2 ? 0 : stored.stream().mapToDouble(x -> (x - mean) * (x - mean)).sum() / (n - 1);
    }

    /**
     * Square of the standard error of this stratum's total, with the finite-population correction (Cochran, Sampling Techniques, ch. 2,
     * from memory).
     */
    double varianceOfTotal() {
        int n = stored.size();
        return n == 0 ? 0 : (double) chunks * chunks * variance() / n * (1 - (double) n / chunks);
    }
}
