package app.granary.core.layout;

import app.granary.core.disk.PartitionTable;
import app.granary.core.inventory.Firmware;

/**
 * What an image is to be laid onto.
 *
 * @param sizeBytes   of the whole target
 * @param sectorBytes its logical sector
 * @param firmware    of the computer it is for; unknown when that is not said
 * @param table       what is on it now; absent when nothing is, or when it does not matter
 * @param alignBytes  partitions that move start on whole multiples of it: {@link RestoreLayout#ALIGN}, or more where sizes are scaled
 */
public record LayoutTarget(long sizeBytes, int sectorBytes, Firmware firmware, PartitionTable table, long alignBytes) {
    public static LayoutTarget blank(long sizeBytes, int sectorBytes, Firmware firmware) {
        return new LayoutTarget(sizeBytes, sectorBytes, firmware, new PartitionTable.Absent(), RestoreLayout.ALIGN);
    }
}
