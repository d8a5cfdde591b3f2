package app.granary.standins;

import app.granary.core.proof.CheckOutcome;
import app.granary.engine.host.HostImage;
import java.io.IOException;
import java.time.Instant;

/** Makes a past: real images of real bytes, dated back, under a clock that can be moved. */
public interface PastWork {
    /** Moves the clock everything goes by. */
    void moveTo(Instant moment);

    /** Lets the clock go on from the real present. */
    void endPast();

    /**
     * Makes an image of a disk as it was read once, dated by the clock, on a destination that need not be attached now. The room it takes
     * is counted into what lay there all along, so that the destination is as full after it as before.
     */
    HostImage image(String diskId, String destinationId, String name) throws IOException;

    /** The same image on another destination. */
    void copy(String name, String fromDestinationId, String toDestinationId) throws IOException;

    /** Checks its digests, really, as fast as that goes. */
    CheckOutcome check(String destinationId, String name) throws IOException;

    /** Turns one bit in the middle of an image. */
    void spoil(String destinationId, String name) throws IOException;
}
