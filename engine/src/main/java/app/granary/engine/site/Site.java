package app.granary.engine.site;

import app.granary.core.destination.Destination;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.preflight.Power;
import app.granary.core.proof.ProofLevel;
import app.granary.core.plan.Afterwards;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/**
 * What is at hand and what can be done with it. All sizes are the sizes the office knows the devices by. Safe for several threads. A disk
 * or destination that is not known, or went away, is refused with a {@link app.granary.core.fault.FaultException}.
 */
public interface Site {
    /** Name of the office, for the screens. */
    String name();

    /** What to tell about devices that are made up; empty when they are real. */
    String simulation();

    /** Computers and their disks, in order of name. */
    List<SiteComputer> computers() throws IOException;

    /** What the machine that does the work runs on. */
    default Power power() throws IOException {
        return Power.MAINS;
    }

    /** Destinations as they are now, in order of name. */
    List<Destination> destinations() throws IOException;

    DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException;

    /**
     * What other than Granary uses a disk, so that no image of it can be made now: "mounted at /home"; an empty string when nothing does.
     */
    default String inUse(String diskId) throws IOException {
        return "";
    }

    /** @param watch told as the sample grows; when it asks to stop, what was sampled so far has to do */
    SiteEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException;

    /**
     * Makes an image, reads it back, names it. What of it was written when it fails is an unfinished capture, unless the fault says
     * otherwise.
     */
    SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException;

    /**
     * Captures and copies on a destination that did not come to their end, those that can be carried on first; empty when it is not
     * attached.
     */
    List<SiteUnfinished> unfinished(String destinationId) throws IOException;

    /** Carries one of them on, from the same disk in the same state. */
    SiteImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException;

    /** Removes one of them. */
    void discard(String destinationId, String name) throws IOException;

    /**
     * Removes what work that a fall of power ended left in the room for rehearsals; called once at the start, when no work is under way.
     */
    default void sweep() throws IOException {
    }

    /** Proves a copy of an image up to a level, at most {@link ProofLevel#REHEARSED}. */
    CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException;

    /** What an image says of itself. */
    ImageFacts facts(ImageAt image) throws IOException;

    /** Copies an image to another destination under the same name, and proves the copy sound. */
    CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException;

    /** Mends a copy from another one that is sound, and proves it again. */
    Repair.Mended mend(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException;

    /**
     * Images in a folder of a destination and below it, whoever made them; one in the folder Granary keeps its images in has an empty
     * folder.
     *
     * @param folder relative to the destination, with slashes; an empty string for all of it
     */
    ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException;

    /** Proves an image that Granary did not make, at most {@link ProofLevel#READABLE}. */
    ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException;

    /** A destination as the place where images lie; refused when it is not attached. */
    Shelf shelf(String destinationId) throws IOException;

    /** Writes a small file onto a destination, replacing one of that name. */
    default void putFile(String destinationId, String folder, String name, Path content) throws IOException {
        shelf(destinationId).putFile(folder, name, content);
    }

    /**
     * Switches the computer off that a disk belongs to, or starts it again.
     *
     * @throws app.granary.core.fault.FaultException when that cannot be done from here, with what a person can do
     */
    void afterwards(String diskId, Afterwards action) throws IOException;

    /** The machine that {@link #afterwards} switches off for a disk; an empty string for the machine that does all work here. */
    default String machine(String diskId) throws IOException {
        return "";
    }

    /** What can be overwritten here. */
    Workbench workbench();
}
