package app.granary.core.night;

/**
 * One drive an image may go to, and what it takes there.
 *
 * @param driveId       the drive
 * @param lowSeconds    at the earliest, nine times in ten
 * @param likelySeconds what start times are reckoned with
 * @param highSeconds   at the latest, nine times in ten; it must end within its window even so
 * @param highBytes     room it may take there
 */
public record Way(String driveId, double lowSeconds, double likelySeconds, double highSeconds, long highBytes) {
    /** A 90 % interval is this many standard deviations wide (NIST/SEMATECH e-Handbook, 1.3.6.7.1: z(0.95) = 1.645). */
    private static final double WIDTH = 2 * 1.645;

    public Way {
        if (lowSeconds < 0 || lowSeconds > likelySeconds || likelySeconds > highSeconds || highBytes < 0) {
            throw new IllegalArgumentException(
                "low, likely and high must ascend: " + lowSeconds + ", " + likelySeconds + ", " + highSeconds);
        }
    }

    /** Square of the standard deviation, seconds squared, as the interval tells it. */
    double variance() {
        double deviation = (highSeconds - lowSeconds) / WIDTH;
        return deviation * deviation;
    }

    long length() {
        return Math.max(1, (long) Math.ceil(likelySeconds));
    }

    long longest() {
        return Math.max(1, (long) Math.ceil(highSeconds));
    }
}
