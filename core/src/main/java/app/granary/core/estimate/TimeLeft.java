package app.granary.core.estimate;

/**
 * Time left of a run as a range that narrows; its middle never moves further than the range that was shown is wide.
 *
 * @param lowSeconds  at the earliest, 0 or more
 * @param highSeconds at the latest, at least the low one
 */
public record TimeLeft(double lowSeconds, double highSeconds) {
    /** Part of the time that stays in doubt to the end, and what is in doubt besides while nothing is done yet. */
    private static final double DOUBT_AT_END = 0.05;
    private static final double DOUBT_AT_START = 0.25;

    public TimeLeft {
        if (!(lowSeconds >= 0) || !(highSeconds >= lowSeconds)) {
            throw new IllegalArgumentException(lowSeconds + " to " + highSeconds);
        }
    }

    /**
     * @param sinceSeconds how long ago this was shown
     * @param byRate       seconds left by the rate so far
     * @param doneShare    0 to 1
     */
    public TimeLeft next(double sinceSeconds, double byRate, double doneShare) {
        double middle = Math.max(0, (lowSeconds + highSeconds) / 2 - sinceSeconds);
        double width = Math.max(1, highSeconds - lowSeconds);
        double likely = Math.max(0, Math.min(middle + width, Math.max(middle - width, byRate)));
        double doubt = DOUBT_AT_START * (1 - Math.min(1, Math.max(0, doneShare))) + DOUBT_AT_END;
        return new TimeLeft(likely * (1 - doubt), likely * (1 + doubt));
    }
}
