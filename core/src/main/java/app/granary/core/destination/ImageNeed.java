package app.granary.core.destination;

import java.util.OptionalLong;
import java.util.Set;

/**
 * What one image asks of a destination.
 *
 * @param sourceName    the disk, for sentences
 * @param sourceSerials serials of the source disk, so that it never becomes its own destination; a raw file counts as the disk it lies on only for itself
 * @param lowBytes      90 % interval of its size, lower end
 * @param likelyBytes   likely size
 * @param highBytes     upper end, which must fit
 * @param splitBytes    length of its parts; empty when it is one file
 */
public record ImageNeed(String sourceName, Set<String> sourceSerials, long lowBytes, long likelyBytes, long highBytes, OptionalLong splitBytes) {
    public ImageNeed {
        sourceSerials = Set.copyOf(sourceSerials);
    }
}
