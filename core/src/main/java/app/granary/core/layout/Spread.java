package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.filesystem.SurveyedPartition;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Places partitions of given sizes one behind the other, in the order they have. */
final class Spread {
    private final List<SurveyedPartition> parts;
    private final Usable usable;
    private final PartitionTable table;
    private final long align;

    Spread(List<SurveyedPartition> parts, Usable usable, PartitionTable table, long align) {
        this.parts = parts;
        this.usable = usable;
        this.table = table;
        this.align = align;
    }

    long[] sizes() {
        return parts.stream().mapToLong(each -> each.partition().sizeBytes()).toArray();
    }

    List<Partition> asItWas() {
        return parts.stream().map(SurveyedPartition::partition).toList();
    }

    int indexOf(SurveyedPartition which) {
        return parts.indexOf(which);
    }

    /** Room before a logical partition for the link that names it. */
    private long lead(int i) {
        return table instanceof PartitionTable.Mbr && parts.get(i).partition().number() > 4 ? align : 0;
    }

    boolean fits(List<Partition> places) {
        return overBytes(places) <= 0;
    }

    /** How much too long it is; 0 or less when it fits. */
    long overBytes(List<Partition> places) {
        return places.stream().mapToLong(Partition::endBytes).max().orElse(0) - usable.endBytes();
    }

    /**
     * Sizes with so much less in all, as far as file systems allow.
     *
     * @param inProportion whether each gives by its length; otherwise the one that can give most gives first
     */
    long[] shrunk(long overBytes, boolean inProportion) {
        long[] sizes = sizes();
        long over = up(overBytes);
        long[] can = new long[sizes.length];
        for (int i = 0; i < sizes.length; i++) {
            can[i] = down(sizes[i] - Resizing.minBytes(parts.get(i), align));
        }
        if (inProportion) {
            double all = 0;
            for (int i = 0; i < sizes.length; i++) {
                all += can[i] > 0 ? sizes[i] : 0;
            }
            long asked = over;
            for (int i = 0; i < sizes.length; i++) {
                long gives = Math.min(can[i], Math.min(over, down((long) (asked * (sizes[i] / all)))));
                if (gives > 0) {
                    sizes[i] -= gives;
                    can[i] -= gives;
                    over -= gives;
                }
            }
        }
        List<Integer> order = new ArrayList<>();
        for (int i = 0; i < sizes.length; i++) {
            order.add(i);
        }
        order.sort(Comparator.comparingLong((Integer i) -> -can[i]));
        for (int i : order) {
            long gives = Math.max(0, Math.min(over, can[i]));
            sizes[i] -= gives;
            over -= gives;
        }
        return sizes;
    }

    /** One keeps its place as long as those before it kept theirs; then each starts on the next boundary. */
    List<Partition> packed(long[] sizes) {
        boolean room = asItWas().stream().allMatch(each -> each.endBytes() <= usable.endBytes());
        List<Partition> out = new ArrayList<>();
        long at = usable.startBytes();
        boolean changed = false;
        for (int i = 0; i < sizes.length; i++) {
            Partition was = parts.get(i).partition();
            boolean stays = !changed && (room || i == 0) && was.startBytes() >= at;
            long start = stays ? was.startBytes() : up(at) + lead(i);
            out.add(at(was, start, sizes[i]));
            changed |= start != was.startBytes() || sizes[i] != was.sizeBytes();
            at = start + sizes[i];
        }
        return out;
    }

    /** The largest that can take up room. */
    Optional<SurveyedPartition> main() {
        return parts.stream().filter(Resizing::grows).max(Comparator.comparingLong(each -> each.partition().sizeBytes()));
    }

    List<Partition> behind(SurveyedPartition main) {
        return parts.subList(parts.indexOf(main) + 1, parts.size()).stream().map(SurveyedPartition::partition).toList();
    }

    /** What lies behind it goes to the end of the target, or stays and bounds it. */
    List<Partition> grown(List<Partition> packed, SurveyedPartition main, boolean moveTrailing) {
        int m = parts.indexOf(main);
        List<Partition> out = new ArrayList<>(packed);
        long end = usable.endBytes();
        if (moveTrailing) {
            for (int i = parts.size() - 1; i > m; i--) {
                long start = down(end - packed.get(i).sizeBytes());
                out.set(i, at(packed.get(i), start, packed.get(i).sizeBytes()));
                end = start - lead(i);
            }
        } else if (m + 1 < packed.size()) {
            end = packed.get(m + 1).startBytes() - lead(m + 1);
        }
        if (end <= packed.get(m).endBytes()) {
            return packed; // rounding left nothing to gain
        }
        out.set(m, at(packed.get(m), packed.get(m).startBytes(), end - packed.get(m).startBytes()));
        return out;
    }

    /** Each that can grow takes its share of what is over; the last one the rest too, when nothing lies behind it. */
    List<Partition> shared(List<Partition> packed) {
        long growable = 0;
        int last = -1;
        for (int i = 0; i < parts.size(); i++) {
            if (Resizing.grows(parts.get(i))) {
                growable += parts.get(i).partition().sizeBytes();
                last = i;
            }
        }
        if (last < 0) {
            return packed;
        }
        long[] sizes = sizes();
        long[] together = sizes.clone();
        // what they take when each starts on its boundary: sharing moves them, and may need up to one boundary each
        long over = usable.endBytes() - packed(together).stream().mapToLong(Partition::endBytes).max().orElse(0) - parts.size() * 2 * align;
        for (int i = 0; i < sizes.length && over > 0; i++) {
            if (Resizing.grows(parts.get(i))) {
                sizes[i] += down((long) ((double) over * parts.get(i).partition().sizeBytes() / growable));
            }
        }
        List<Partition> out = packed(sizes);
        long rest = -overBytes(out);
        if (rest > 0 && last == parts.size() - 1) {
            out.set(last, at(out.get(last), out.get(last).startBytes(), out.get(last).sizeBytes() + rest));
        } else if (rest >= align) {
            sizes[last] += down(rest);
            List<Partition> fuller = packed(sizes);
            return fits(fuller) ? fuller : out;
        }
        return rest < 0 ? packed : out;
    }

    private static Partition at(Partition was, long start, long size) {
        return new Partition(was.number(), start, size, was.type(), was.name(), was.uuid(), was.attributes(), was.container());
    }

    private long up(long bytes) {
        return (bytes + align - 1) / align * align;
    }

    private long down(long bytes) {
        return bytes / align * align;
    }
}
