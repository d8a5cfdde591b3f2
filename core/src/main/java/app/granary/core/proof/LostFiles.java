package app.granary.core.proof;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.filesystem.FilesHit;
import app.granary.core.filesystem.FilesOn;
import java.io.IOException;
import java.util.Optional;

/**
 * The files of one partition of an image or a disk that lie on damage.
 *
 * @param partition which one, in words
 * @param hit       their names, as far as they can be told
 */
public record LostFiles(String partition, FilesHit hit) {
    /**
     * Those of one partition; empty where it has no damage.
     *
     * @param source    the whole disk; what is damaged of it reads as zeros
     * @param partition which one, in words
     * @param start     of the partition on it, in bytes; {@code end} behind its last byte
     * @param damaged   of the whole disk
     */
    public static Optional<LostFiles> of(BlockSource source, String partition, long start, long end, Extents damaged) throws IOException {
        Extents within = damaged.within(start, end);
        return within.isEmpty() ? Optional.empty()
            : Optional.of(new LostFiles(partition, FilesOn.find(source, start, end - start, within)));
    }
}
