package app.granary.server.run;

import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunRecords;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Runs that failed and were not made good since, and those that wait for a person. */
@Component
public class Troubles {
    private static final int LOOKED_AT = 200;

    private final RunQueue queue;
    private final RunRecords records;

    Troubles(RunQueue queue, RunRecords records) {
        this.queue = queue;
        this.records = records;
    }

    /**
     * @param id    of the run
     * @param kind  the word for it
     * @param waits whether it waits for its passphrase, rather than failed
     */
    public record Trouble(UUID id, String subject, String kind, String imageName, boolean waits, String outcome) {
    }

    /** Of those begun after a moment, newest first. */
    public List<Trouble> since(Instant begun) {
        List<Trouble> out = new ArrayList<>();
        queue.waiting().stream().filter(run -> run.waits() == Run.Waits.PASSPHRASE)
            .forEach(run -> out.add(new Trouble(run.id(), run.subject(), run.kind().word(), run.imageName(), true, run.outcome())));
        Set<String> madeGood = new HashSet<>();
        for (Run run : records.newest(LOOKED_AT)) {
            String what = run.kind() + run.diskId() + (run.kind() == Run.Kind.CAPTURE ? "" : run.imageName() + run.destinationId());
            if (run.state() == Run.State.DONE) {
                madeGood.add(what);
            } else if (run.state() == Run.State.FAILED && run.seenAt() == null && run.begunAt().isAfter(begun) && madeGood.add(what)) {
                // a check that found damage is told of with its image
                if (run.kind() != Run.Kind.CHECK || !run.foundDamage()) {
                    out.add(new Trouble(run.id(), run.subject(), run.kind().word(), run.imageName(), false, run.outcome()));
                }
            }
        }
        return out;
    }
}
