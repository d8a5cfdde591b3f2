package app.granary.server.target;

import app.granary.core.disk.DiskIdentity;
import java.util.Optional;
import java.util.UUID;

/** Knows disks that the office keeps as something, and that are not overwritten as long as it does. */
public interface TargetGuard {
    /**
     * What it is kept as, to follow "is": "the spare of TRIPOD"; empty when nothing.
     *
     * @param replaced which of what is kept may go, since it is made anew; empty for none
     */
    Optional<String> keptAs(DiskIdentity disk, Optional<UUID> replaced);
}
