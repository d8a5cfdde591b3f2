package app.granary.core.destination;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.Arrays;
import java.util.Optional;

/**
 * Optical discs, by what they hold. DVD and BD capacities as the formats give them (from memory; DVD+R 2 295 104 and DVD-R 2 298 496
 * sectors of 2048 bytes, BD-R 12 219 392).
 */
public enum Disc {
    DVD_PLUS_R("DVD+R", 4_700_372_992L), DVD_MINUS_R("DVD-R", 4_707_319_808L), BD_R("BD-R", 25_025_314_816L);

    /** Of every one of them. */
    static final int SECTOR_BYTES = 2048;

    /**
     * More discs than this in a row is an evening of changing them, and one bad disc spoils the set: a drive is the better choice (common
     * practice, no source).
     */
    private static final long SENSIBLE = 5;

    private final String label;
    private final long bytes;

    Disc(String label, long bytes) {
        this.label = label;
        this.bytes = bytes;
    }

    public String label() {
        return label;
    }

    /** @param label as it is printed on the disc, in either case */
    public static Optional<Disc> parse(String label) {
        return Arrays.stream(values()).filter(each -> each.label.equalsIgnoreCase(label)).findFirst();
    }

    /** @throws app.granary.core.fault.FaultException when there is none of that label, with those there are */
    public static Disc require(String label) throws IOException {
        return parse(label).orElseThrow(() -> Fault.of(Fault.Kind.BAD_CHOICE, label, "There is no disc \"" + label
            + "\". Choose DVD+R, DVD-R or BD-R.").asException());
    }

    public long bytes() {
        return bytes;
    }

    /** How many are needed for an image of at most that many bytes, each disc filled with parts of its own length. */
    public long count(long imageBytes) {
        return new Parts(bytes).count(imageBytes);
    }

    /** Whether that many are too many to be a good idea. */
    public boolean silly(long imageBytes) {
        return count(imageBytes) > SENSIBLE;
    }
}
