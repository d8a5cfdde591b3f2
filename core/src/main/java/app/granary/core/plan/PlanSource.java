package app.granary.core.plan;

import app.granary.core.disk.DiskIdentity;
import java.util.Collection;
import java.util.Collections;
import java.util.SortedSet;
import java.util.TreeSet;

/**
 * The disk a plan is for.
 *
 * @param diskId   as this office knows it
 * @param computer its computer's name
 * @param disk     which disk of the computer
 * @param identity what it is recognised by anywhere
 * @param without  numbers of partitions that are not read; ascending
 */
public record PlanSource(String diskId, String computer, String disk, DiskIdentity identity, SortedSet<Integer> without) {
    public PlanSource {
        without = Collections.unmodifiableSortedSet(new TreeSet<>(without));
    }

    public static PlanSource of(String diskId, String computer, String disk, DiskIdentity identity, Collection<Integer> without) {
        return new PlanSource(diskId, computer, disk, identity, new TreeSet<>(without));
    }

    public String label() {
        return computer + ", " + disk;
    }
}
