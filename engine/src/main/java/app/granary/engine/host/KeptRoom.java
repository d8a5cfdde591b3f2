package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * The last room of the drive that holds Granary's own data, which images and rehearsals leave alone, whatever was reckoned before they
 * began. A database on a full drive can keep nothing more.
 */
final class KeptRoom {
    private final Path own;
    private final long keptBytes;
    private final FileStore store;

    /**
     * @param own       a folder on the drive, which exists
     * @param keptBytes that stay free
     */
    KeptRoom(Path own, long keptBytes) throws IOException {
        this.own = own;
        this.keptBytes = keptBytes;
        this.store = Files.getFileStore(own);
    }

    /** Free for what is not Granary's own data; not below 0. */
    long freeBytes() throws IOException {
        return Math.max(0, store.getUsableSpace() - keptBytes);
    }

    /** Whether a folder, which exists, lies on the same drive. */
    boolean isFor(Path folder) throws IOException {
        return Files.getFileStore(folder).equals(store);
    }

    /** @throws app.granary.core.fault.FaultException of kind NO_ROOM when there is less */
    void require(long bytes) throws IOException {
        long free = freeBytes();
        if (free < bytes) {
            throw noRoom(Sizes.decimal(bytes) + " are needed, and " + Sizes.decimal(free) + " are");
        }
    }

    private IOException noRoom(String free) {
        return Fault.of(Fault.Kind.NO_ROOM, own.toString(),
            "Granary keeps the last " + Sizes.decimal(keptBytes) + " of the drive its own data lies on: " + free
                + " free besides. Make room on the drive of " + own + ", then try again.")
            .asException();
    }

    /** Work that writes onto the drive, or, of a folder elsewhere, the work as it is. */
    Watch over(Watch watch, Path folder) throws IOException {
        return !isFor(folder) ? watch : watch.asking(what -> {
            watch.requireGoingOn(what);
            if (freeBytes() == 0) {
                throw noRoom("nothing is");
            }
        });
    }
}
