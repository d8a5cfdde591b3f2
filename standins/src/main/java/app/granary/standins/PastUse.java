package app.granary.standins;

import app.granary.engine.site.PastReading;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;

/** A made-up past: how full the office's disks were over the last three months, read once a week. The same for every start on the same day. */
final class PastUse {
    private static final int WEEKS = 13;
    private static final Duration WEEK = Duration.ofDays(7);
    /** A disk gains up to this share of what it holds in a week, and once in a while someone tidies up. */
    private static final double MOST_GROWTH = 0.02;

    private PastUse() {
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
            out.add(0, new PastReading(disk.id(), now.minus(WEEK.multipliedBy(week)), Math.min((long) used, disk.realBytes() * disk.scale())));
        }
        return out;
    }
}
