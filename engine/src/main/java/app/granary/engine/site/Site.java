package app.granary.engine.site;

import app.granary.core.destination.Destination;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;

/**
 * What is at hand and what can be done with it. All sizes are the sizes the office knows the devices by. Safe for several threads. A disk or
 * destination that is not known, or went away, is refused with a {@link app.granary.core.fault.FaultException}.
 */
public interface Site {
    /** Name of the office, for the screens. */
    String name();

    /** What to tell about devices that are made up; empty when they are real. */
    String simulation();

    /** Computers and their disks, in order of name. */
    List<SiteComputer> computers() throws IOException;

    /** Used bytes as they were read before Granary was set up here, oldest first; empty where nobody took them. */
    default List<PastReading> pastReadings() {
        return List.of();
    }

    /** Free room as it was before Granary was set up here, oldest first; empty where nobody noted it. */
    default List<PastRoom> pastRoom() {
        return List.of();
    }

    /** Destinations as they are now, in order of name. */
    List<Destination> destinations() throws IOException;

    DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException;

    SiteEstimate estimate(String diskId, Storage storage, Watch watch) throws IOException;

    /** Makes an image, reads it back, names it. */
    SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException;

    CheckOutcome check(String destinationId, String name, CheckDepth depth, Watch watch) throws IOException;
}
