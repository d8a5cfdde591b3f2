package app.granary.core.disk;

import app.granary.core.fault.Fault;
import java.util.Comparator;
import java.util.List;

/** No two partitions may share a byte; an extended partition holds its logical ones and is left out of the comparison. */
final class Overlaps {
    private Overlaps() {
    }

    static void refuse(String device, List<Partition> partitions) throws Unsound {
        List<Partition> sorted = partitions.stream().filter(p -> !p.container()).sorted(Comparator.comparingLong(Partition::startBytes))
            .toList();
        for (int i = 1; i < sorted.size(); i++) {
            Partition before = sorted.get(i - 1);
            Partition after = sorted.get(i);
            if (after.startBytes() < before.endBytes()) {
                throw new Unsound(
                    Fault.damaged(device, after.startBytes(), "a start at or after byte " + before.endBytes(), "" + after.startBytes(),
                        device + ": partitions " + before.number() + " and " + after.number() + " overlap from byte " + after.startBytes()
                            + " on. Repair the table with a partition editor, or capture every block."));
            }
        }
    }
}
