package app.granary.core.disk;

import app.granary.core.fault.Fault;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** No two partitions may share a byte; an extended partition holds its logical ones and is left out of the comparison. */
final class Overlaps {
    private Overlaps() {
    }

    static Optional<PartitionTable> check(String scheme, String device, List<Partition> partitions) {
        List<Partition> sorted = partitions.stream().filter(p -> !p.container()).sorted(Comparator.comparingLong(Partition::startBytes)).toList();
        for (int i = 1; i < sorted.size(); i++) {
            Partition before = sorted.get(i - 1);
            Partition after = sorted.get(i);
            if (after.startBytes() < before.endBytes()) {
                String expected = "a start at or after byte " + before.endBytes();
                return Optional.of(new PartitionTable.Damaged(scheme, Fault.damaged(device, after.startBytes(), expected, "" + after.startBytes(),
                    device + ": partitions " + before.number() + " and " + after.number() + " overlap from byte " + after.startBytes()
                        + " on. Mend the table with a partition editor, or capture every block.")));
            }
        }
        return Optional.empty();
    }
}
