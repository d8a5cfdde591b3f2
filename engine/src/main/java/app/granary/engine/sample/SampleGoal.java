package app.granary.engine.sample;

import app.granary.core.estimate.SizeEstimate;
import java.util.List;

/**
 * How far a sample goes: until the decision at hand is clear and the interval narrow, or the budget is spent.
 *
 * @param limitsBytes what the image must fit into; clear when none of them lies within the interval
 * @param halfWidth   how far low and high may lie from likely, as a share of it
 * @param budgetBytes most of the disk that is read for it; at least 80 chunks are, since fewer tell too little
 */
public record SampleGoal(List<Long> limitsBytes, double halfWidth, long budgetBytes) {
    /** For a first figure: costs well under a tenth of a capture (bench). */
    public static final SampleGoal QUICK = new SampleGoal(List.of(), 1, 80L << 20);
    private static final double NARROW = 0.05;
    private static final long BUDGET = 256L << 20;

    public SampleGoal {
        limitsBytes = List.copyOf(limitsBytes);
    }

    /** Narrow enough to plan with, and clear of all of these limits; at most 256 MiB are read. */
    public static SampleGoal clearOf(List<Long> limitsBytes) {
        return new SampleGoal(limitsBytes, NARROW, BUDGET);
    }

    /** The same for a disk whose sizes are so many times as small. */
    public SampleGoal scaled(long factor) {
        return new SampleGoal(limitsBytes.stream().map(limit -> limit / factor).toList(), halfWidth, budgetBytes);
    }

    boolean reached(SizeEstimate estimate) {
        boolean narrow = estimate.highBytes() - estimate.likelyBytes() <= halfWidth * estimate.likelyBytes();
        return narrow && limitsBytes.stream().noneMatch(limit -> estimate.lowBytes() < limit && limit < estimate.highBytes());
    }
}
