package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import java.util.Locale;

/**
 * Content that is in use and still not worth keeping: it is stored as zeros unless a person wants it. What describes it, a file's entry or
 * a swap area's header, is kept.
 *
 * @param path   the file's name in the root of its file system, or an empty string for a whole partition
 * @param what   what it is
 * @param ranges where its bytes lie; from the partition's start in a {@link FileSystem}, from the disk's in a {@link SurveyedPartition}
 */
public record LeftOut(String path, What what, Extents ranges) {
    /** The sorts of content left out. */
    public enum What {
        PAGE_FILE, HIBERNATION_FILE, SWAP,
        /** All that is in use on a partition a person chose not to read. */
        PARTITION;

        /** In words, for people and for image.json. */
        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', ' ');
        }
    }

    LeftOut shift(long bytes) {
        return new LeftOut(path, what, ranges.shift(bytes));
    }

    public long bytes() {
        return ranges.totalBytes();
    }
}
