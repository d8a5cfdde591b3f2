package app.granary.engine.host;

import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import java.io.IOException;
import java.util.Optional;

/**
 * A machine that has disks and destinations, and does the work on them: this one, a computer somewhere else, or a made-up office. What is
 * asked of it is told by ids and answered by figures and progress; where its files lie is its own matter. All sizes are the sizes the
 * office knows the devices by. Safe for several threads. A disk or destination that is not known, or went away, is refused with a
 * {@link app.granary.core.fault.FaultException}.
 */
public interface Host {
    /** For the screens. */
    String name();

    /** What to tell about devices that are made up; empty when they are real. */
    String simulation();

    /** The disks that are at hand. */
    Devices devices();

    /** Where images lie. */
    ImageStore store();

    /** Makes images, and proves them. */
    Imaging imaging();

    /** What can be overwritten. */
    Overwriting overwriting();

    /** What is in its images. */
    Insides insides();

    /** Lends what lies on its drives to work at other machines; empty for one that lends nothing. */
    default Optional<Lender> lender() {
        return Optional.empty();
    }

    /** Where what others lend to it is put at its hand; empty for one that works with its own drives alone, or is not in this process. */
    default Optional<BorrowedFolders> borrowed() {
        return Optional.empty();
    }

    /** What the machine runs on. */
    default Power power() throws IOException {
        return Power.MAINS;
    }

    /**
     * Switches the computer off that a disk belongs to, or starts it again.
     *
     * @param diskId an empty string for the machine itself
     * @throws app.granary.core.fault.FaultException when that cannot be done from here, with what a person can do
     */
    void afterwards(String diskId, Afterwards action) throws IOException;

    /** The machine that {@link #afterwards} switches off for a disk; an empty string for the machine that does all work here. */
    default String machine(String diskId) throws IOException {
        return "";
    }

    /**
     * Removes what work that a fall of power ended left in the room for rehearsals; called once at the start, when no work is under way.
     */
    default void sweep() throws IOException {
    }
}
