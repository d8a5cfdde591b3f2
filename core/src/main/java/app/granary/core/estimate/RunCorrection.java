package app.granary.core.estimate;

import java.util.List;

/**
 * What finished runs teach the next estimate: by how much the last ones took longer, or shorter, than was thought. A median, so that one
 * night with a slow cable does not count for all; of the last five, so that a new drive is believed soon.
 *
 * @param factor what the time is multiplied by; 1 without any run
 * @param ratios the ratios of actual to thought that it rests on, newest first, at most five
 */
public record RunCorrection(double factor, List<Double> ratios) {
    private static final int LAST = 5;
    /** A run that was paused, or that a person's laptop slept through, says nothing of the next: ratios outside are not believed. */
    private static final double LEAST = 0.2;
    private static final double MOST = 5;
    public static final RunCorrection NONE = new RunCorrection(1, List.of());

    public RunCorrection {
        ratios = List.copyOf(ratios);
    }

    /** @param newestFirst actual seconds divided by those thought of, of finished runs alike in computer, destination and codec */
    public static RunCorrection of(List<Double> newestFirst) {
        List<Double> believed = newestFirst.stream().filter(ratio -> ratio >= LEAST && ratio <= MOST).limit(LAST).toList();
        if (believed.isEmpty()) {
            return NONE;
        }
        List<Double> sorted = believed.stream().sorted().toList();
        int middle = sorted.size() / 2;
        double median = sorted.size() % 2 == 1 ? sorted.get(middle) : (sorted.get(middle - 1) + sorted.get(middle)) / 2;
        return new RunCorrection(median, believed);
    }
}
