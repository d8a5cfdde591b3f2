package app.granary.core.layout;

import app.granary.core.disk.Partition;
import java.util.Optional;

/** Which partition of a target that keeps its table one of an image goes into. */
final class Places {
    private Places() {
    }

    /** The one of a number; empty where there is none, or where the table says that it reaches past the target. */
    static Optional<Partition> on(LayoutTarget target, int number) {
        return target.table().partitions().stream().filter(each -> each.number() == number && !each.container()
            && each.startBytes() >= 0 && each.sizeBytes() > 0 && each.sizeBytes() <= target.sizeBytes() - each.startBytes()).findFirst();
    }

    /** One that lies over it by the target's own table, and would be harmed. */
    static Optional<Partition> over(LayoutTarget target, Partition to) {
        return target.table().partitions().stream().filter(each -> each.number() != to.number() && !each.container()
            && each.startBytes() < to.endBytes() && each.endBytes() > to.startBytes()).findFirst();
    }

    /** Whether it is there, in the same place and as large. */
    static boolean same(LayoutTarget target, Partition partition) {
        return target.table().partitions().stream().anyMatch(there -> there.number() == partition.number()
            && there.startBytes() == partition.startBytes() && there.sizeBytes() == partition.sizeBytes());
    }

    /** What of the two differs, so that somebody can tell whether it is the right one. */
    static Optional<String> remark(Partition from, Partition to) {
        boolean other = !from.type().code().equals(to.type().code());
        boolean name = !from.name().equals(to.name()) && !to.name().isEmpty();
        String what = other && name ? "kind (" + to.type().name() + ") and name (\"" + to.name() + "\")"
            : other ? "kind (" + to.type().name() + ")" : "name (\"" + to.name() + "\")";
        return other || name ? Optional.of("The target's partition " + to.number() + " keeps its own " + what
            + " in its table. Make sure that it is the one you mean.") : Optional.empty();
    }
}
