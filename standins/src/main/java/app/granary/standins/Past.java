package app.granary.standins;

import java.util.List;
import java.util.Optional;

/** What there was of an office before Granary was set up there; of one that is made up, since a real one's past is told by people. */
public interface Past {
    /** Used bytes of disks as they were read, oldest first. */
    List<PastReading> readings();

    /** Free room of destinations, oldest first. */
    List<PastRoom> room();

    /** What was said of destinations. */
    List<PastNote> notes();

    /** Plans that were in use. */
    List<PastPlan> plans();

    /** What makes images of the past; empty under a clock that cannot be moved. */
    Optional<PastWork> work();
}
