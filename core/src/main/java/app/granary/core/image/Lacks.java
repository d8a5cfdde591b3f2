package app.granary.core.image;

import app.granary.core.disk.Partition;
import java.util.List;

/**
 * What of its disk an image does not hold, because a person left it out or because it was made of a part only. It stays so for ever: an
 * image that lacks something never stands for its disk where one that holds all of it is asked for.
 *
 * @param parts names for people, "recovery" or "partition 4"; empty for an image of the whole disk
 */
public record Lacks(List<String> parts) {
    /** Of an image of the whole disk. */
    public static final Lacks NOTHING = new Lacks(List.of());
    /** Of an image made elsewhere that holds one partition. */
    public static final Lacks ALL_BUT_ONE = new Lacks(List.of("all but one partition"));

    /** Of a file nobody can look into: it may hold all of its disk, or nothing. */
    public static final Lacks UNTOLD = new Lacks(List.of("what nobody can tell"));

    /** Of an image that lies on the disk it is of, on a partition it leaves out. */
    public static final Lacks ON_ITS_OWN_DISK = new Lacks(List.of("a life beyond its disk"));

    public Lacks {
        parts = List.copyOf(parts);
    }

    /** Whether it may stand for its disk, in part at least: not one partition alone, not what may be anything, not what dies with it. */
    public boolean countsForDisk() {
        return !equals(ALL_BUT_ONE) && !equals(UNTOLD) && !diesWithItsDisk();
    }

    /** Whether it lies on the disk it is of. */
    public boolean diesWithItsDisk() {
        return equals(ON_ITS_OWN_DISK);
    }

    public boolean nothing() {
        return parts.isEmpty();
    }

    /** "partly: without recovery"; an empty string for an image of the whole disk. */
    public String words() {
        if (equals(UNTOLD)) {
            return "kept as found, nobody can tell what is in it";
        }
        if (diesWithItsDisk()) {
            return "for a quick roll-back, on the disk itself";
        }
        return nothing() ? "" : "partly: without " + (parts.size() == 1 ? parts.get(0)
            : String.join(", ", parts.subList(0, parts.size() - 1)) + " and " + parts.get(parts.size() - 1));
    }

    /**
     * Of an image made elsewhere, by what its start tells. A start without a table, of a disk that has one, is a partition. A length below
     * the disk's is an image of its beginning: what of its partitions lies behind that is not in it.
     *
     * @param diskScheme    of the disk it is of, as it was last read: "gpt", "mbr", "none"
     * @param diskSizeBytes length of that disk
     */
    public static Lacks of(DiskInside inside, String diskScheme, long diskSizeBytes) {
        boolean shorter = inside.sizeBytes().isPresent() && inside.sizeBytes().getAsLong() < diskSizeBytes;
        if (inside.scheme().equals("none") && (shorter || !diskScheme.equals("none"))) {
            return ALL_BUT_ONE;
        }
        if (!shorter || inside.endBytes() <= inside.sizeBytes().getAsLong()) {
            return NOTHING;
        }
        return new Lacks(inside.partitions().stream().filter(each -> !each.container() && each.endBytes() > inside.sizeBytes().getAsLong())
            .map(Partition::label).toList());
    }
}
