package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import app.granary.core.measure.Sizes;
import app.granary.core.target.Preparation;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/** Finds room and numbers for partitions that are made new, in the order they were asked for. */
final class Additions {
    private static final int MBR_PRIMARIES = 4;

    private final PartitionTable table;
    private final List<RestoreLayout.Stretch> free;
    private final long align;
    private final Set<Integer> taken = new HashSet<>();
    private final List<Added> placed = new ArrayList<>();
    private final List<Refusal> refusals = new ArrayList<>();

    /**
     * @param table  of the image
     * @param places of what is restored
     * @param free   between them
     */
    Additions(PartitionTable table, List<Partition> places, List<RestoreLayout.Stretch> free, long align) {
        this.table = table;
        this.align = align;
        this.free = new ArrayList<>(free);
        places.forEach(each -> taken.add(each.number()));
        if (places.stream().anyMatch(each -> each.number() > MBR_PRIMARIES)) { // what holds them comes back with them
            table.partitions().stream().filter(Partition::container).forEach(each -> taken.add(each.number()));
        }
    }

    /**
     * Those that find room, in order of where they lie; none where something speaks against the layout without them already.
     *
     * @param against what speaks against the layout; what speaks against these is added
     */
    List<Added> all(List<NewPartition> wanted, List<Refusal> against) {
        if (against.isEmpty()) {
            wanted.forEach(this::add);
            against.addAll(refusals);
        }
        return placed.stream().sorted(Comparator.comparingLong(each -> each.to().startBytes())).toList();
    }

    private void add(NewPartition wanted) {
        boolean gpt = table instanceof PartitionTable.Gpt;
        int number = 1;
        while (taken.contains(number)) {
            number++;
        }
        if (!Preparation.nameable(wanted.name())) {
            refuse("The name \"" + wanted.name() + "\" cannot be written on every kind of file system. Use 1 to 11 letters, digits and "
                + "hyphens.");
        } else if (!gpt && !(table instanceof PartitionTable.Mbr)) {
            refuse("Without a partition table there is no new partition. Leave it out.");
        } else if (number > (table instanceof PartitionTable.Gpt known ? known.entryCount() : MBR_PRIMARIES)) {
            refuse("The table has no number left for \"" + wanted.name() + "\": an MBR names four partitions. Leave out another, or this "
                + "one.");
        } else {
            place(wanted, number, gpt);
        }
    }

    private void place(NewPartition wanted, int number, boolean gpt) {
        long size = wanted.sizeBytes() / align * align;
        long least = NewPartition.LEAST * align;
        RestoreLayout.Stretch into = free.stream().filter(each -> room(each) >= Math.max(size, least))
            .reduce((one, other) -> size == 0 && room(other) > room(one) ? other : one).orElse(null);
        if (into == null || size != 0 && size < least) {
            refuse("\"" + wanted.name() + "\" finds no room: it asks for " + Sizes.decimal(Math.max(size, least)) + ", and the longest "
                + "stretch that stays free has " + Sizes.decimal(free.stream().mapToLong(this::room).max().orElse(0))
                + ". Ask for less, or make another partition smaller.");
            return;
        }
        long start = up(into.startBytes());
        long length = size == 0 ? room(into) : size;
        String seed = table instanceof PartitionTable.Gpt disk ? disk.diskGuid() : "";
        String uuid = UUID.nameUUIDFromBytes((seed + "/" + number + "/" + start).getBytes(StandardCharsets.UTF_8)).toString();
        placed.add(new Added(new Partition(number, start, length, PartitionType.of(wanted.fileSystem().type(gpt)), gpt ? wanted.name() : "",
            gpt ? uuid.toUpperCase(java.util.Locale.ROOT) : "", 0, false), wanted.fileSystem(), wanted.name()));
        taken.add(number);
        free.remove(into);
        free.add(new RestoreLayout.Stretch(start + length, into.startBytes() + into.sizeBytes() - start - length));
        free.sort(Comparator.comparingLong(RestoreLayout.Stretch::startBytes));
    }

    private void refuse(String sentence) {
        refusals.add(new Refusal(Refusal.Kind.OUT_OF_BOUNDS, sentence));
    }

    private long up(long bytes) {
        return (bytes + align - 1) / align * align;
    }

    /** Of a stretch, between boundaries. */
    private long room(RestoreLayout.Stretch stretch) {
        return Math.max(0, (stretch.startBytes() + stretch.sizeBytes()) / align * align - up(stretch.startBytes()));
    }
}
