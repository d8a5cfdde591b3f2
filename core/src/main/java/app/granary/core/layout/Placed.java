package app.granary.core.layout;

import app.granary.core.disk.Partition;
import java.util.OptionalLong;

/**
 * A partition of the image and where it comes to lie.
 *
 * @param from             as it was
 * @param to               as it will be
 * @param fileSystem       short name of what is in it
 * @param usedBytes        in use; empty when only the file system itself could tell
 * @param highestUsedBytes end of its last used byte, counted from its start
 * @param minBytes         smallest size its content allows
 * @param maxBytes         largest size the target allows while the others keep theirs
 * @param restored         whether it is written; one that stays as it is on the target is not
 */
public record Placed(Partition from, Partition to, String fileSystem, OptionalLong usedBytes, long highestUsedBytes, long minBytes,
    long maxBytes, boolean restored) {
    public boolean moved() {
        return from.startBytes() != to.startBytes();
    }

    public boolean resized() {
        return from.sizeBytes() != to.sizeBytes();
    }

    /** Whether its file system is made smaller on the way. */
    public boolean shrunk() {
        return restored && to.sizeBytes() < from.sizeBytes();
    }

    /**
     * Room for a scratch file in which that is done: what is in use, and once more what lies behind its new end and moves. At most as long
     * as it was; 0 where nothing is made smaller.
     */
    public long scratchBytes() {
        long used = usedBytes.orElse(from.sizeBytes());
        long moves = Math.min(used, Math.max(0, highestUsedBytes - to.sizeBytes()));
        return shrunk() ? Math.min(from.sizeBytes(), used + used / 16 + moves) : 0;
    }

    /** How many of its bytes are written: what does not exist on the target cannot be. */
    public long copiedBytes() {
        return restored ? Math.min(from.sizeBytes(), to.sizeBytes()) : 0;
    }
}
