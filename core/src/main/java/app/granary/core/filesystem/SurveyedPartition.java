package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import java.util.List;

/**
 * A partition with what was found in it.
 *
 * @param toRead  byte ranges of the disk (not of the partition) that a capture reads here
 * @param leftOut content in use that a capture does not read, in ranges of the disk; empty when a person wants it kept
 */
public record SurveyedPartition(Partition partition, FileSystem fileSystem, Extents toRead, List<LeftOut> leftOut) {
    public SurveyedPartition {
        leftOut = List.copyOf(leftOut);
    }

    /** Whether every byte of it is read; a container of logical partitions is not. */
    public boolean readWhole() {
        return fileSystem instanceof FileSystem.Whole && !partition.container();
    }

    /** Whether nothing of it is read because a person left it out: an image made so does not hold it, though it has its place. */
    public boolean lacking() {
        return leftOut.stream().anyMatch(each -> each.what() == LeftOut.What.PARTITION);
    }

    /** Why it is read whole, or an empty string. */
    public String reason() {
        return fileSystem instanceof FileSystem.Whole whole ? whole.reason() : "";
    }

    public long leftOutBytes() {
        return leftOut.stream().mapToLong(LeftOut::bytes).sum();
    }
}
