package app.granary.server.capture;

import app.granary.core.fault.FaultException;
import app.granary.core.plan.Afterwards;
import app.granary.engine.host.Host;
import app.granary.server.journal.Journal;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunEnds;
import app.granary.server.queue.RunQueue;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * What becomes of a computer when its image is made. Only after one that is sound, and only when nothing else waits or is at work on that
 * machine: a night's first image must not switch off the machine that makes the others. A computer whose image failed stays as it is, to be
 * tried again.
 */
@Component
class Completion {
    private final Host host;
    private final Journal journal;
    private final RunQueue queue;
    /** By machine, until its other work has ended. Forgotten when Granary is ended: then it stays on. */
    private final Map<String, Wanted> wanted = new TreeMap<>();

    private record Wanted(Run run, Afterwards action) {
    }

    Completion(Host host, Journal journal, RunQueue queue) {
        this.host = host;
        this.journal = journal;
        this.queue = queue;
    }

    @EventListener
    synchronized void ended(RunEnds.Ended ended) {
        Run run = ended.run();
        if (ended.order() instanceof CaptureOrder order) {
            image(run, order);
        }
        for (Map.Entry<String, Wanted> each : List.copyOf(wanted.entrySet())) {
            if (!busy(each.getKey(), run)) {
                wanted.remove(each.getKey());
                carryOut(each.getValue());
            }
        }
    }

    private void image(Run run, CaptureOrder order) {
        String machine = machine(run);
        if (run.state() != Run.State.DONE) {
            Optional.ofNullable(wanted.remove(machine))
                .ifPresent(before -> journal.add(run.begunBy(), "afterwards", before.run.computer(), Journal.Result.NOTE,
                    before.run.computer() + " stays on, since " + run.imageName() + " was not made."));
            return;
        }
        Afterwards.parse(order.afterwards()).filter(each -> each != Afterwards.NOTHING)
            .ifPresent(action -> wanted.put(machine, new Wanted(run, action)));
    }

    /** A disk that cannot be told any more is taken for one of the machine that does all work. */
    private String machine(Run run) {
        try {
            return host.machine(run.diskId());
        } catch (IOException gone) {
            return "";
        }
    }

    private boolean busy(String machine, Run justEnded) {
        List<Run> others = new ArrayList<>(queue.open());
        others.removeIf(run -> run.id().equals(justEnded.id()));
        return others.stream().anyMatch(run -> machine.isEmpty() || !run.diskId().isEmpty() && machine(run).equals(machine));
    }

    private void carryOut(Wanted what) {
        Run run = what.run;
        try {
            host.afterwards(run.diskId(), what.action);
            journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.DONE,
                run.computer() + " " + what.action.phrase() + ", as was asked for.");
        } catch (FaultException refused) {
            journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.FAILED, refused.getMessage());
        } catch (IOException failed) {
            journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.FAILED,
                run.computer() + " was to be " + what.action.word() + ", which failed: " + failed.getMessage() + ".");
        }
    }
}
