package app.granary.core.estimate;

import app.granary.core.machine.Machine;
import app.granary.core.machine.Route;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * How long a capture will take. Reading, compressing and writing go on at the same time, so the slowest of them sets the time; reading back
 * comes after.
 *
 * @param stages      each with the seconds it would take alone
 * @param slowest     name of the stage that sets the time
 * @param lowSeconds  at the earliest
 * @param highSeconds at the latest, nine times in ten
 */
public record TimeEstimate(List<Stage> stages, String slowest, double lowSeconds, double highSeconds) {
    /** Runs that were thought to take 20 minutes took 24, and 30 took 28 (common practice, no source). */
    private static final double EARLY = 0.9;
    private static final double LATE = 1.25;

    /**
     * One step of the work.
     *
     * @param name           {@code "read"}, {@code "compress"}, {@code "send"} where a network is crossed, {@code "write"}, {@code "read
     * back"}
     * @param bytes          what it moves
     * @param bytesPerSecond how fast
     */
    public record Stage(String name, long bytes, long bytesPerSecond) {
        public double seconds() {
            return (double) bytes / Math.max(1, bytesPerSecond);
        }
    }

    public TimeEstimate {
        stages = List.copyOf(stages);
    }

    /** The same, as this office's own runs correct it. */
    public TimeEstimate corrected(RunCorrection correction) {
        return new TimeEstimate(stages, slowest, lowSeconds * correction.factor(), highSeconds * correction.factor());
    }

    /** The middle of the range, which finished runs are compared with. */
    public double likelySeconds() {
        return (lowSeconds + highSeconds) / 2;
    }

    /**
     * @param size         the size estimate
     * @param readRate     bytes per second the source gives
     * @param compressRate bytes per second of raw data all processors compress
     * @param writeRate    bytes per second the destination takes, and gives when read back
     */
    public static TimeEstimate of(SizeEstimate size, long readRate, long compressRate, long writeRate) {
        return of(size, readRate, compressRate, writeRate, new Route.Within(Machine.OFFICE));
    }

    /**
     * @param route from the disk to the destination; what is read back is digested where it lies, and crosses nothing
     */
    public static TimeEstimate of(SizeEstimate size, long readRate, long compressRate, long writeRate, Route route) {
        List<Stage> together = new ArrayList<>(List.of(new Stage("read", size.usedBytes(), readRate),
            new Stage("compress", size.usedBytes(), compressRate)));
        route.crossing().ifPresent(rate -> together.add(new Stage("send", size.likelyBytes(), rate)));
        together.add(new Stage("write", size.likelyBytes(), writeRate));
        Stage slowest = together.stream().max(Comparator.comparingDouble(Stage::seconds)).orElseThrow();
        Stage back = new Stage("read back", size.likelyBytes(), writeRate);
        double seconds = slowest.seconds() + back.seconds();
        double spread = (double) size.highBytes() / Math.max(1, size.likelyBytes());
        together.add(back);
        return new TimeEstimate(together, slowest.name(), seconds * EARLY / spread,
            seconds * LATE * spread);
    }
}
