package app.granary.core.inventory;

import java.util.Optional;

/**
 * A reported disk and the known one it is.
 *
 * @param computer name of the computer that reports it
 * @param known    empty for a disk not met before
 */
public record DiskMatch(String computer, DiskReport reported, Optional<KnownDisk> known) {
}
