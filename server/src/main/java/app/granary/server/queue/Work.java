package app.granary.server.queue;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.engine.openpgp.Passphrase;
import java.io.IOException;
import java.time.Instant;
import java.util.List;

/**
 * One kind of long work: what is asked for, which devices it touches, and how it is done. Each lives with its feature.
 *
 * @param <O> its order, kept with the run as JSON; never holds a passphrase
 */
public interface Work<O extends Record> {
    Run.Kind kind();

    Class<O> orderType();

    /** Of the order's form. An order of an older form is read by {@link Orders} as this one; raised when that is not enough. */
    default int version() {
        return 1;
    }

    /** Every device it touches, from before it begins until it has ended. */
    List<DeviceClaim> claims(Run run, O order);

    /**
     * The machine that does the work, among those that joined; an empty string for the office's own. Each has processors of its own.
     */
    default String machine(Run run, O order) {
        return "";
    }

    /**
     * Whether all it touches is in that machine, so that it goes on there while Granary is away, and {@link #perform} may be called again
     * for it with a {@link LiveRun#again}.
     */
    default boolean staysThere(Run run, O order) {
        return false;
    }

    /** The name it runs by; that may be made only when it starts. */
    default String name(Run run, O order, Instant now) {
        return run.imageName();
    }

    /** Whether it waits until a person gives its passphrase, when that was not kept. */
    default boolean needsPassphrase(Run run, O order) {
        return run.encrypted();
    }

    /**
     * What has to come before it can begin, as a sentence; an empty string when nothing has. Asked for twice a second, so nothing is looked
     * for on devices.
     *
     * @throws app.granary.server.problem.Refused when it came too late, and the run cannot begin any more
     */
    default String notYet(Run run, O order) {
        return "";
    }

    /** Whether another run that waits or is under way does the same already. Both are of this kind. */
    default boolean same(Run asked, Run other) {
        return asked.destination().equals(other.destination()) && asked.imageName().equals(other.imageName())
            && asked.disk().equals(other.disk());
    }

    /** What is said to who asks for it twice. */
    default String twice() {
        return "That is asked for already, and waits or is under way. See Runs.";
    }

    /**
     * Does it.
     *
     * @param passphrase none when there is none
     * @return how it went, as a sentence
     * @throws app.granary.core.fault.FaultException when it failed; {@link #ended} is called in any case
     */
    String perform(LiveRun running, O order, Passphrase passphrase) throws IOException;

    /** What an early end left behind, as a sentence that follows the reason; an empty string for nothing. */
    default String left(Run run, Fault fault) {
        return "";
    }

    /** What to do about one that was under way when Granary was ended. */
    default String interrupted(Run run) {
        return "Start it again.";
    }

    /**
     * Keeps what its end means for this kind, in the transaction that stores it as ended: nobody reads one without the other. It may be
     * called again, when that transaction failed or Granary was ended within it.
     */
    default void ended(Run run, Took took) {
    }
}
