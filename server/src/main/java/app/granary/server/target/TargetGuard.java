package app.granary.server.target;

import app.granary.core.disk.DiskIdentity;
import java.util.Optional;

/** Knows disks that the office keeps as something, and that are not overwritten as long as it does. */
public interface TargetGuard {
    /** What it is kept as, to follow "is": "the spare of TRIPOD"; empty when nothing. */
    Optional<String> keptAs(DiskIdentity disk);
}
