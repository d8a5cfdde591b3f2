package app.granary.standins;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;

/**
 * A made-up past: how full the office's disks were over the last three months, read once a week. The same for every start on the same day.
 */
final class PastUse {
    private static final int WEEKS = 13;
    private static final Duration WEEK = Duration.ofDays(7);
    /** A disk gains up to this share of what it holds in a week, and once in a while someone tidies up. */
    private static final double MOST_GROWTH = 0.02;

    /** A backup drive gains this share of its capacity in a week at most. */
    private static final double MOST_STORED = 0.012;

    private PastUse() {
    }

    /**
     * How a drive filled over the same weeks.
     *
     * @param storedNow what lies on it today; the past leads up to it
     */
    static List<PastRoom> of(StandInDrive drive, long storedNow, Instant now) {
        SplittableRandom random = new SplittableRandom(drive.id().hashCode());
        double weekly = random.nextDouble() * MOST_STORED * drive.capacityBytes();
        List<PastRoom> out = new ArrayList<>();
        double stored = storedNow;
        for (int week = 1; week <= WEEKS; week++) {
            stored = Math.max(0, stored - weekly * (0.5 + random.nextDouble()));
            out.add(0,
                new PastRoom(drive.id(), now.minus(WEEK.multipliedBy(week)), drive.capacityBytes(), drive.capacityBytes() - (long) stored));
        }
        return out;
    }

    /** @param usedNow what the disk holds today; the past leads up to it */
    static List<PastReading> of(StandInDisk disk, long usedNow, Instant now) {
        SplittableRandom random = new SplittableRandom(disk.serial().hashCode());
        double growth = random.nextDouble() * MOST_GROWTH;
        int tidied = random.nextInt(WEEKS * 2);
        List<PastReading> out = new ArrayList<>();
        double used = usedNow;
        for (int week = 1; week <= WEEKS; week++) {
            used *= 1 - growth * (0.5 + random.nextDouble());
            if (week == tidied) {
                used *= 1.08;
            }
            out.add(0,
                new PastReading(disk.id(), now.minus(WEEK.multipliedBy(week)), Math.min((long) used, disk.realBytes() * disk.scale())));
        }
        return out;
    }
}
