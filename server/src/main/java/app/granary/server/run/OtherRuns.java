package app.granary.server.run;

import app.granary.core.claim.DeviceClaim;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.problem.Refused;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Orders long work of the kinds that overwrite something, or rehearse it. */
@Service
public class OtherRuns {
    /** Stands in a restore's name between the disk and its target. */
    public static final String ONTO = " onto ";

    private final RunQueue queue;
    private final RunRepository repository;
    private final Passphrases passphrases;
    private final Clock clock;

    OtherRuns(RunQueue queue, RunRepository repository, Passphrases passphrases, Clock clock) {
        this.queue = queue;
        this.repository = repository;
        this.passphrases = passphrases;
        this.clock = clock;
    }

    /** What is done. */
    public enum Kind {
        /** An image onto a disk. */
        RESTORE,
        /** A disk onto another. */
        SPARE,
        /** A file onto a stick. */
        STICK,
        /** A drive is made ready. */
        PREPARE,
        /** An image onto scratch, started there. */
        REHEARSAL;

        Run.Kind run() {
            return Run.Kind.valueOf(name());
        }
    }

    /**
     * One order.
     *
     * @param runId     a new identity, by which whoever does it finds what was asked
     * @param computer  whose disk it is about
     * @param diskId    that disk; an empty string for none
     * @param disk      its name
     * @param deviceId  what only one run uses at a time: the drive the image lies on, or the target
     * @param device    its name
     * @param name      of the image, or of the file
     * @param imageId   empty when it is about none
     * @param bytes     likely written
     * @param encrypted whether a passphrase is needed
     */
    public record Order(UUID runId, Kind kind, String computer, String diskId, String disk, String deviceId, String device, String name, Optional<UUID> imageId, long bytes, double lowSeconds, double highSeconds,
                        boolean encrypted) {
    }

    /** Where a run stands, for who ordered it. */
    public record Stands(String state, String outcome) {
    }

    public void begin(Order order, Passphrase passphrase, String who) {
        boolean twice = Stream.concat(queue.waiting().stream(), queue.underWay().stream().map(LiveRun::run)).anyMatch(run -> run.kind() == order.kind.run() && run.destination().equals(order.device)
            && run.imageName().equals(order.name) && run.disk().equals(order.disk));
        if (twice) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "", "That is asked for already, and waits or is under way. See Runs.");
        }
        passphrases.keep(order.runId, passphrase);
        queue.add(Run.other(order, clock.instant(), who));
    }

    /** @throws Refused when another run uses what is to be overwritten, or waits to overwrite it; {@link #begin} asks once more */
    public void requireFree(DeviceClaim target) {
        queue.requireFree(List.of(target));
    }

    /** Empty when there is no such run. */
    public Optional<Stands> stands(UUID runId) {
        return queue.live(runId).map(live -> new Stands(Run.State.RUNNING.word(), "")).or(() -> repository.findById(runId).map(run -> new Stands(run.state().word(), run.outcome())));
    }
}
