package app.granary.core.destination;

import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Which files of an image go onto which disc: in their order, none on two discs, but for the small ones that every disc carries.
 *
 * @param discs names of files of each disc, without those that every disc carries
 */
public record DiscPlan(List<List<String>> discs) {
    /** What a disc's own folders take, and the label in it, at most (common practice, no source). */
    private static final long OVERHEAD = 1L << 20;

    public DiscPlan {
        discs = discs.stream().map(List::copyOf).toList();
    }

    /** A file of an image. */
    public record Item(String name, long bytes) {
    }

    /**
     * @param parts     in order
     * @param everyDisc bytes of the files that every disc carries
     * @param discBytes that one disc takes
     * @throws app.granary.core.fault.FaultException when a part does not go onto one disc, with how long it may be
     */
    public static DiscPlan of(List<Item> parts, long everyDisc, long discBytes) throws IOException {
        long room = discBytes - OVERHEAD - whole(everyDisc);
        List<List<String>> out = new ArrayList<>();
        long left = -1;
        for (Item each : parts) {
            if (whole(each.bytes()) > room) {
                throw Fault.of(Fault.Kind.NO_ROOM, each.name(), each.name() + " has " + Sizes.decimal(each.bytes())
                    + ", and one disc takes "
                    + Sizes.decimal(Math.max(0, room)) + " of an image. Make the image in parts of at most " + Math.max(0, room)
                    + " bytes, or use larger discs.").asException();
            }
            if (left < whole(each.bytes())) {
                out.add(new ArrayList<>());
                left = room;
            }
            out.get(out.size() - 1).add(each.name());
            left -= whole(each.bytes());
        }
        return new DiscPlan(out);
    }

    /** A file ends with a whole sector. */
    private static long whole(long bytes) {
        return (bytes + Disc.SECTOR_BYTES - 1) / Disc.SECTOR_BYTES * Disc.SECTOR_BYTES;
    }
}
