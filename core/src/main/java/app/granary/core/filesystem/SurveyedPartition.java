package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;

/**
 * A partition with what was found in it.
 *
 * @param toRead byte ranges of the disk (not of the partition) that a capture reads here
 */
public record SurveyedPartition(Partition partition, FileSystem fileSystem, Extents toRead) {

    /** Whether every byte of it is read; a container of logical partitions is not. */
    public boolean readWhole() {
        return fileSystem instanceof FileSystem.Whole && !partition.container();
    }

    /** Why it is read whole, or an empty string. */
    public String reason() {
        return fileSystem instanceof FileSystem.Whole whole ? whole.reason() : "";
    }
}
