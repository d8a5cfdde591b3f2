package app.granary.core.restore;

/**
 * How long one disk takes to be written and compared. Cards, runbooks, orders and running work all take it from here, so that they do not
 * contradict each other. Restores estimated at 30 minutes took 28, and tend to run faster than the capture (common practice, no source).
 *
 * @param lowSeconds  at best
 * @param highSeconds at worst
 */
public record RestoreTime(double lowSeconds, double highSeconds) {
    public static final RestoreTime NONE = new RestoreTime(0, 0);
    private static final double BEST = 0.9;
    private static final double WORST = 1.6;

    /**
     * Reading the image and writing the disk go on at once, so the slower sets the pace; reading back to compare comes after. Making file
     * systems smaller takes next to nothing where the tools see the image itself and little must move (0.96 of a plain restore of an ext4
     * measured, 1.45 of an NTFS), so at best it is not counted.
     */
    public static RestoreTime of(Bytes bytes, Rates rates) {
        double seconds = writing(bytes, rates) + bytes.used / rates.disk;
        return new RestoreTime(seconds * BEST, (seconds + shrinking(bytes, rates)) * WORST);
    }

    /** At worst: laying a scratch file, moving what must move in it, and reading it again, each of its bytes three times. */
    private static double shrinking(Bytes bytes, Rates rates) {
        return 3.0 * bytes.scratch / rates.disk;
    }

    /** Seconds of writing alone. */
    public static double writing(Bytes bytes, Rates rates) {
        return Math.max(bytes.stored / rates.link, bytes.used / rates.disk);
    }

    /**
     * @param stored  read from the destination
     * @param used    written to the disk
     * @param scratch laid into a scratch file, in which file systems are made smaller; 0 where none is
     */
    public record Bytes(long stored, long used, long scratch) {
        public Bytes(long stored, long used) {
            this(stored, used, 0);
        }
    }

    /**
     * Bytes a second, more than 0.
     *
     * @param link from the destination
     * @param disk onto the disk, and back from it
     */
    public record Rates(double link, double disk) {
    }

    /** One after the other. */
    public RestoreTime plus(RestoreTime other) {
        return new RestoreTime(lowSeconds + other.lowSeconds, highSeconds + other.highSeconds);
    }

    /** 0 for nothing, else at least 1. */
    public long lowMinutes() {
        return highSeconds == 0 ? 0 : Math.max(1, Math.round(lowSeconds / 60));
    }

    /** 0 for nothing, else at least 2. */
    public long highMinutes() {
        return highSeconds == 0 ? 0 : Math.max(2, Math.round(highSeconds / 60));
    }
}
