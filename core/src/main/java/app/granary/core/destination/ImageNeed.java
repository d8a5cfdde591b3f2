package app.granary.core.destination;

import app.granary.core.machine.Machine;
import java.util.OptionalLong;
import java.util.Set;

/**
 * What one image asks of a destination.
 *
 * @param sourceName    the disk, for sentences
 * @param sourceSerials serials of the source disk, so that it never becomes its own destination; a raw file counts as the disk it lies on
 *                      only for itself
 * @param lowBytes      90 % interval of its size, lower end
 * @param likelyBytes   likely size
 * @param highBytes     upper end, which must fit
 * @param splitBytes    length of its parts; empty when it is one file
 * @param circumstances what else the rules go by
 */
public record ImageNeed(String sourceName, Set<String> sourceSerials, long lowBytes, long likelyBytes, long highBytes,
    OptionalLong splitBytes, Circumstances circumstances) {
    public ImageNeed {
        sourceSerials = Set.copyOf(sourceSerials);
    }

    /** One without any. */
    public ImageNeed(String sourceName, Set<String> sourceSerials, long lowBytes, long likelyBytes, long highBytes,
        OptionalLong splitBytes) {
        this(sourceName, sourceSerials, lowBytes, likelyBytes, highBytes, splitBytes, Circumstances.NONE);
    }

    /**
     * @param computerId     the computer on record; an empty string when it does not matter
     * @param encrypted      whether the image will be encrypted
     * @param encryptLeaving whether the office wants images encrypted on drives that leave the building
     * @param copiesOn       identities of the destinations that hold an image of this disk already
     * @param machine        which machine the disk is in
     * @param without        numbers of the partitions that are left out of the image
     */
    public record Circumstances(String computerId, boolean encrypted, boolean encryptLeaving, Set<String> copiesOn, Machine machine,
        Set<Integer> without) {
        public static final Circumstances NONE = new Circumstances("", false, false, Set.of(), Machine.OFFICE, Set.of());

        public Circumstances {
            copiesOn = Set.copyOf(copiesOn);
            without = Set.copyOf(without);
        }
    }
}
