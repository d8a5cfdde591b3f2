package app.granary.core.shelf;

import app.granary.core.proof.Standing;
import java.time.Instant;

/**
 * A copy of an image, as the shelf shows it.
 *
 * @param id          its own
 * @param imageId     the same for all copies of one image
 * @param diskId      of the disk it is of
 * @param madeAt      the moment it is of
 * @param drive       identity of the destination it lies on; an empty string for one that is only written down
 * @param storedBytes what it takes there; 0 where nobody knows
 * @param released    whether it is in the trash, or waits for its drive to be moved there: nothing counts on it
 * @param seen        false for one that is only written down
 */
public record CopyOnShelf(String id, String imageId, String diskId, Instant madeAt, String drive, long storedBytes, Standing standing,
    boolean released, boolean seen) {
    /** Whether its bytes were found sound, or more, and that is not too long ago. */
    boolean provenLately(Instant now) {
        return !released && standing.sound() && !standing.stale(now);
    }

    /** Whether it would be restored from: it is there, and no check found damage. */
    boolean counts() {
        return !released && seen && !standing.damaged();
    }
}
