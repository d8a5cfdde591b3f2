package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import java.util.OptionalLong;

/** What lies in a partition, as far as Granary can tell. Ranges count from the partition's first byte. */
public sealed interface FileSystem {
    /** The file system's usual short name ({@code "ext4"}, {@code "vfat"}, {@code "ntfs"}), or {@code "unknown"}. */
    String kind();

    /** Used bytes by the file system's own count, where it tells. */
    OptionalLong usedBytes();

    /** Free bytes by the file system's own count, where it tells. */
    OptionalLong freeBytes();

    /**
     * A file system whose allocation was read and agrees with itself.
     *
     * @param blockBytes bytes per block, or per cluster
     * @param usedBlocks blocks in use, metadata included, as {@code dumpe2fs} or {@code fsck.fat} count them
     * @param freeBlocks blocks not in use
     * @param toRead     every byte range of the partition that may hold something: used blocks, and all that no map speaks of
     */
    record Mapped(String kind, long blockBytes, long usedBlocks, long freeBlocks, Extents toRead) implements FileSystem {
        @Override
        public OptionalLong usedBytes() {
            return OptionalLong.of(usedBlocks * blockBytes);
        }

        @Override
        public OptionalLong freeBytes() {
            return OptionalLong.of(freeBlocks * blockBytes);
        }
    }

    /**
     * A partition that is read from its first byte to its last.
     *
     * @param reason why, as a clause that can follow "read whole: "
     */
    record Whole(String kind, String reason) implements FileSystem {
        @Override
        public OptionalLong usedBytes() {
            return OptionalLong.empty();
        }

        @Override
        public OptionalLong freeBytes() {
            return OptionalLong.empty();
        }
    }
}
