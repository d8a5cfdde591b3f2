package app.granary.server.run;

import app.granary.core.claim.DeviceClaim;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/** Long work that other parts of the program know how to do, and that waits, runs and is watched like captures and checks. */
public interface OtherWork {
    /** The kinds it does, as {@link OtherRuns.Kind}. */
    Set<OtherRuns.Kind> kinds();

    /**
     * Does what was asked for.
     *
     * @param runId      the run it is done as; what was asked is kept with it by whoever asked
     * @param passphrase none when there is none
     * @return how it went, as a sentence
     * @throws app.granary.core.fault.FaultException when it failed; {@link #ended} is called in any case
     */
    String perform(UUID runId, Passphrase passphrase, Watch watch) throws IOException;

    /** Every device it touches, from before it begins until it has ended. */
    List<DeviceClaim> claims(UUID runId);

    /** It has ended. */
    void ended(UUID runId, boolean done, String sentence);
}
