package app.granary.server.run;

import app.granary.engine.openpgp.Passphrase;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** What a person does to a run while it waits or is under way; each is journalled. */
@Service
public class Runs {
    private final RunQueue queue;
    private final Journal journal;

    public Runs(RunQueue queue, Journal journal) {
        this.queue = queue;
        this.journal = journal;
    }

    private LiveRun live(UUID id) {
        return queue.live(id)
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "not-running", "", "This run has ended already, or has not begun."));
    }

    public void stop(UUID id, String who) {
        Optional<Run> waited = queue.waiting().stream().filter(run -> run.id().equals(id)).findFirst();
        if (waited.isPresent() && queue.takeOut(id, who + " took it out of the queue before it began.")) {
            journal.add(who, "stop", waited.get().subject(), Journal.Result.STOPPED,
                who + " took " + waited.get().imageName() + " out of the queue.");
            return;
        }
        LiveRun running = live(id);
        journal.add(who, "stop", running.run().subject(), Journal.Result.BEGUN, who + " asked to stop " + running.run().imageName() + ".");
        running.stop();
    }

    void pause(UUID id, boolean paused, String who) {
        LiveRun running = live(id);
        queue.pause(running, paused);
        journal.add(who, "pause", running.run().subject(), Journal.Result.NOTE,
            running.run().imageName() + (paused ? " is held." : " goes on."));
    }

    public void lower(UUID id, boolean low, String who) {
        Run run = queue.lower(id, low);
        journal.add(who, "priority", run.subject(), Journal.Result.NOTE,
            run.imageName() + (low ? " gives way to other runs." : " runs at usual priority."));
    }

    /** Lets a waiting run begin as soon as its devices are free, whatever time it was to start at. */
    public void startNow(UUID id, Passphrase passphrase, String who) {
        Run run = queue.startNow(id, passphrase);
        journal.add(who, "start", run.subject(), Journal.Result.NOTE, who + " started " + run.imageName() + " by hand.");
        queue.look();
    }
}
