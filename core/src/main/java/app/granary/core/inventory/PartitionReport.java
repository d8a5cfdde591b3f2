package app.granary.core.inventory;

import java.util.OptionalLong;

/**
 * A partition as a computer reports it.
 *
 * @param number     as the system numbers it, from 1; 0 for a file system on the whole disk
 * @param startBytes first byte on the disk, where told; 0 otherwise
 * @param sizeBytes  more than 0
 * @param type       type code of the table, or an empty string
 * @param name       its name or label, or an empty string
 * @param fileSystem short name, or an empty string
 * @param usedBytes  where told
 */
public record PartitionReport(int number, long startBytes, long sizeBytes, String type, String name, String fileSystem,
    OptionalLong usedBytes) {
    /** Word for it in sentences. */
    public String label() {
        return number == 0 ? "the file system on the whole disk"
            : name.isEmpty() ? "partition " + number : "partition " + number + " (" + name + ")";
    }
}
