package app.granary.engine.host;

import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.BootRehearsal;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** The work that makes images and proves them. */
public interface Imaging {
    /**
     * Makes an image, reads it back, names it. What of it was written when it fails is an unfinished capture, unless the fault says
     * otherwise.
     */
    HostImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException;

    /** Carries an unfinished one on, from the same disk in the same state. */
    HostImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException;

    /** Proves a copy of an image up to a level, at most {@link ProofLevel#REHEARSED}. */
    CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException;

    /** Proves an image that Granary did not make, at most {@link ProofLevel#READABLE}. */
    ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException;

    /** Copies an image to another destination under the same name, and proves the copy sound. */
    CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException;

    /** Repairs a copy from another one that is sound, and proves it again. */
    Repair.Repaired repair(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException;

    /**
     * Lays a copy of an image out for discs, on its own drive: a folder and a label for each.
     *
     * @param discBytes that one disc takes
     * @param iso       whether an ISO 9660 image of each is made too
     * @return the folders, relative to the destination, with slashes, in order
     */
    List<String> discs(ImageAt image, long discBytes, boolean iso, Watch watch) throws IOException;

    /**
     * Starts a copy of an image for practice, from the image itself: nothing is restored for that, so it takes as long whatever the image's
     * size.
     */
    Started start(ImageAt image) throws IOException;

    /** @param seen what starting it showed; empty where it was not started, with the reason in {@code notStarted} */
    record Started(Optional<BootRehearsal.Seen> seen, String notStarted) {
    }
}
