package app.granary.core.filesystem;

import app.granary.core.disk.Extents;
import java.util.List;
import java.util.OptionalLong;

/** What lies in a partition, as far as Granary can tell. Ranges count from the partition's first byte. */
public sealed interface FileSystem {
    /** The file system's usual short name ({@code "ext4"}, {@code "vfat"}, {@code "ntfs"}), or {@code "unknown"}. */
    String kind();

    /** Used bytes by the file system's own count, where it tells. */
    OptionalLong usedBytes();

    /** Free bytes by the file system's own count, where it tells. */
    OptionalLong freeBytes();

    /** Content in use that an image need not hold; usually empty. */
    default List<LeftOut> leftOut() {
        return List.of();
    }

    /**
     * A file system whose allocation was read and agrees with itself.
     *
     * @param blockBytes bytes per block, or per cluster
     * @param usedBlocks blocks in use, metadata included, as {@code dumpe2fs} or {@code fsck.fat} count them
     * @param freeBlocks blocks not in use
     * @param toRead     every byte range of the partition that may hold something: used blocks, and all that no map speaks of; content that
     *                   may be left out included
     */
    record Mapped(String kind, long blockBytes, long usedBlocks, long freeBlocks, Extents toRead,
        List<LeftOut> leftOut) implements FileSystem {
        public Mapped {
            leftOut = List.copyOf(leftOut);
        }

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
     * A swap area: its header tells what it is and is kept, the rest means nothing once the computer is off.
     *
     * @param headerBytes length of the header page, counted from the partition's start
     * @param sizeBytes   length of the partition
     */
    record Swap(long headerBytes, long sizeBytes) implements FileSystem {
        @Override
        public String kind() {
            return "swap";
        }

        @Override
        public OptionalLong usedBytes() {
            return OptionalLong.empty();
        }

        @Override
        public OptionalLong freeBytes() {
            return OptionalLong.empty();
        }

        @Override
        public List<LeftOut> leftOut() {
            return sizeBytes > headerBytes ? List.of(new LeftOut("", LeftOut.What.SWAP, Extents.range(headerBytes, sizeBytes))) : List.of();
        }
    }

    /**
     * A partition that is read from its first byte to its last.
     *
     * @param reason    why, as a clause that can follow "read whole: "
     * @param usedBytes used bytes its superblock tells, though not where they lie
     */
    record Whole(String kind, String reason, OptionalLong usedBytes) implements FileSystem {
        public Whole(String kind, String reason) {
            this(kind, reason, OptionalLong.empty());
        }

        @Override
        public OptionalLong freeBytes() {
            return OptionalLong.empty();
        }
    }
}
