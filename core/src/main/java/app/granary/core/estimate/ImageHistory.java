package app.granary.core.estimate;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * From a disk's earlier images to its next: the ratio of stored to read of the newest one, applied to what would be read today, and widened
 * with its age, since what is on a disk changes. The spread of earlier ratios counts too, where there are several.
 */
public final class ImageHistory {
    /** At once after an image the next is taken to be within this share of it; with every 30 days the range widens by as much again. */
    private static final double FRESH = 0.04;
    private static final double DAYS = 30;
    /** However old, an image of the same disk tells more than an assumption. */
    private static final double WIDEST = 0.4;

    private ImageHistory() {
    }

    /**
     * An earlier image of the same disk with the same codec and level.
     *
     * @param ageDays     how old it is, 0 or more
     * @param readBytes   what was read, more than 0
     * @param storedBytes what it took
     */
    public record Past(double ageDays, long readBytes, long storedBytes) {
        double ratio() {
            return (double) storedBytes / readBytes;
        }
    }

    /** @param usedBytes what would be read today; empty result without any past image */
    public static Optional<SizeEstimate> estimate(List<Past> past, long usedBytes) {
        Optional<Past> newest = past.stream().min(Comparator.comparingDouble(Past::ageDays));
        if (newest.isEmpty()) {
            return Optional.empty();
        }
        double ratio = newest.get().ratio();
        double spread = past.stream().mapToDouble(each -> Math.abs(each.ratio() / ratio - 1)).max().orElse(0);
        double width = Math.min(WIDEST, Math.max(FRESH * (1 + newest.get().ageDays() / DAYS), spread));
        return Optional.of(new SizeEstimate(usedBytes, 0, Math.round(usedBytes * ratio * (1 - width)), Math.round(usedBytes * ratio),
            Math.round(usedBytes * ratio * (1 + width)),
            SizeEstimate.Basis.HISTORY, 0, List.of(), 0, 0));
    }
}
