package app.granary.server.queue;

import app.granary.engine.host.Host;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** What becomes of runs when Granary is started again: each waits again, or says why it cannot. */
@Component
public class Restart {
    private static final Logger LOG = LoggerFactory.getLogger(Restart.class);

    private final Host host;
    private final RunQueue queue;
    private final Orders orders;
    private final RunEnds ends;
    private final RunRepository repository;
    private final GoingOn elsewhere;

    Restart(Host host, RunQueue queue, Orders orders, RunEnds ends, RunRepository repository, GoingOn elsewhere) {
        this.elsewhere = elsewhere;
        this.host = host;
        this.queue = queue;
        this.orders = orders;
        this.ends = ends;
        this.repository = repository;
    }

    /**
     * Work that was under way here when Granary went down did not end; it is said so, once. What went on at another machine is asked after
     * there. What waited waits again.
     */
    @EventListener(ApplicationStartedEvent.class)
    void takeUp() {
        sweep();
        List<RunRow> goingOn = new ArrayList<>();
        for (RunRow run : repository.findByState(Run.State.RUNNING)) {
            if (elsewhere.may(run)) {
                goingOn.add(run);
            } else {
                interrupted(run);
            }
        }
        List<RunRow> again = new ArrayList<>();
        for (RunRow run : repository.findByState(Run.State.QUEUED)) {
            if (run.kind().overwrites()) {
                ends.dropped(run, RunEnds.Outcome.stopped(
                    "Granary was started anew before this began, and overwrites a disk only for someone who has just looked at it. Look "
                        + "at the disk, and confirm it again."));
            } else if (orders.known(run)) {
                again.add(run);
            } else {
                ends.dropped(run, RunEnds.Outcome.stopped("Granary was ended before what was asked for was kept. Ask for it again."));
            }
        }
        queue.takeUp(again, goingOn).forEach(this::interrupted);
    }

    private void interrupted(RunRow run) {
        ends.dropped(run, RunEnds.Outcome.failed("Granary was ended while this ran. " + orders.interrupted(run)));
    }

    private void sweep() {
        try {
            host.sweep();
        } catch (IOException | RuntimeException notNow) {
            LOG.warn("scratch of earlier work could not be removed", notNow);
        }
    }
}
