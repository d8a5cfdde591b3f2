package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.filesystem.SurveyedPartition;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** The table that says what a layout is. */
final class TableOf {
    private TableOf() {
    }

    static PartitionTable placed(PartitionTable was, List<SurveyedPartition> parts, List<Partition> places, List<Added> added,
        Usable usable,
        long align) {
        List<Partition> made = added.stream().map(Added::to).toList();
        if (was instanceof PartitionTable.Gpt gpt) {
            return new PartitionTable.Gpt(gpt.diskGuid(), gpt.firstUsableLba(), gpt.lastUsableLba(), gpt.entryCount(),
                inOrder(both(places, made)),
                List.of());
        }
        if (was instanceof PartitionTable.Mbr mbr) {
            List<Partition> all = both(places, made);
            mbr.partitions().stream().filter(Partition::container)
                .forEach(container -> container(container, parts, places, usable, align).ifPresent(all::add));
            return new PartitionTable.Mbr(mbr.diskSignature(), inOrder(all));
        }
        return was;
    }

    /** What nothing new may lie in: the placed partitions, and what holds logical ones, gaps between them too. */
    static List<Partition> taken(PartitionTable was, List<SurveyedPartition> parts, List<Partition> places, Usable usable, long align) {
        return both(places, placed(was, parts, places, List.of(), usable, align).partitions().stream().filter(Partition::container)
            .toList());
    }

    private static List<Partition> both(List<Partition> places, List<Partition> made) {
        List<Partition> out = new ArrayList<>(places);
        out.addAll(made);
        return out;
    }

    /**
     * It reaches from one boundary before its first logical partition to the end of its last; where those kept their places, it keeps its
     * own.
     */
    private static Optional<Partition> container(Partition was, List<SurveyedPartition> parts, List<Partition> places, Usable usable,
        long align) {
        List<Partition> inside = new ArrayList<>();
        boolean kept = true;
        for (int i = 0; i < places.size(); i++) {
            if (places.get(i).number() > 4) {
                inside.add(places.get(i));
                kept &= parts.get(i).partition().equals(places.get(i));
            }
        }
        if (inside.isEmpty()) {
            return Optional.empty();
        }
        long first = inside.stream().mapToLong(Partition::startBytes).min().orElseThrow();
        long start = first == parts.stream().filter(each -> each.partition().number() > 4).findFirst().orElseThrow().partition()
            .startBytes() ? was.startBytes() : first - align;
        long end = inside.stream().mapToLong(Partition::endBytes).max().orElseThrow();
        return Optional.of(kept && was.endBytes() >= end && was.endBytes() <= usable.endBytes() && start == was.startBytes() ? was
            : new Partition(was.number(), start, end - start, was.type(), was.name(), was.uuid(), was.attributes(), true));
    }

    private static List<Partition> inOrder(List<Partition> partitions) {
        return partitions.stream().sorted(Comparator.comparingInt(Partition::number)).toList();
    }
}
