package app.granary.server.capture;

import app.granary.core.fault.FaultException;
import app.granary.core.plan.Afterwards;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunEnds;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunWishes;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/**
 * What becomes of a computer when work on it ends: after an image, of the computer it is of; after a restore, a check or a copy, of the
 * machine that did it. Only after work that came to its end, and only when nothing else waits or is at work on that machine: a night's
 * first image must not switch off the machine that makes the others. After work that failed it stays as it is, to be tried again.
 */
@Component
public class Completion {
    private final Host host;
    private final Journal journal;
    private final RunQueue queue;
    private final RunWishes wishes;
    /** By machine, until its other work has ended. Forgotten when Granary is ended: then it stays on. */
    private final Map<String, Wanted> wanted = new TreeMap<>();

    /** @param diskId of a disk in the machine; an empty string for the office's own */
    private record Wanted(Run run, String diskId, String name, Afterwards action) {
    }

    Completion(Host host, Journal journal, RunQueue queue, RunWishes wishes) {
        this.host = host;
        this.journal = journal;
        this.queue = queue;
        this.wishes = wishes;
    }

    /** What is to become of it after a run that waits or is under way. */
    public Afterwards of(Run run) {
        return of(run, queue.order(run));
    }

    private Afterwards of(Run run, Optional<Record> order) {
        return wishes.afterwards(run.id()).or(() -> order.filter(CaptureOrder.class::isInstance)
            .flatMap(asked -> Afterwards.parse(((CaptureOrder) asked).afterwards()))).orElse(Afterwards.NOTHING);
    }

    /** @param instead what to do about one that has ended */
    static Run open(RunQueue queue, UUID runId, String instead) {
        return queue.open().stream().filter(each -> each.id().equals(runId)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "ended", "", "That run has ended. " + instead));
    }

    /** Changes that, as long as it has not ended. */
    public void choose(UUID runId, Afterwards action, String who) {
        Run run = open(queue, runId, "Switch the computer off by hand.");
        wishes.afterwards(runId, action);
        journal.add(who, "afterwards", run.subject(), Journal.Result.NOTE, "When " + run.imageName() + " has ended well and nothing else "
            + "waits there, the computer " + action.phrase() + ".");
    }

    @EventListener
    synchronized void ended(RunEnds.Ended ended) {
        Run run = ended.run();
        Afterwards action = of(run, Optional.of(ended.order()));
        String machine = run.kind() == Run.Kind.CAPTURE ? machine(run) : ended.machine();
        if (run.state() == Run.State.DONE && action != Afterwards.NOTHING) {
            place(ended, machine).ifPresent(place -> wanted.put(machine, new Wanted(run, place.diskId, place.name, action)));
        } else if (run.state() != Run.State.DONE && (run.kind() == Run.Kind.CAPTURE || action != Afterwards.NOTHING)) {
            Optional.ofNullable(wanted.remove(machine))
                .ifPresent(before -> journal.add(run.begunBy(), "afterwards", before.name, Journal.Result.NOTE,
                    before.name + " stays on, since " + run.imageName() + " did not come to its end."));
        }
        for (Map.Entry<String, Wanted> each : List.copyOf(wanted.entrySet())) {
            if (!busy(each.getKey(), run)) {
                wanted.remove(each.getKey());
                carryOut(each.getValue());
            }
        }
    }

    private record Place(String diskId, String name) {
    }

    /** A computer that joined is told by one of its disks. */
    private Optional<Place> place(RunEnds.Ended ended, String machine) {
        Run run = ended.run();
        if (run.kind() == Run.Kind.CAPTURE) {
            return Optional.of(new Place(run.diskId(), run.computer()));
        }
        if (ended.machine().isEmpty()) {
            return Optional.of(new Place("", "The computer Granary runs on"));
        }
        try {
            for (HostComputer computer : host.devices().computers()) {
                for (HostDisk disk : computer.disks()) {
                    if (computer.machine().id().equals(machine)) {
                        return Optional.of(new Place(disk.id(), computer.name()));
                    }
                }
            }
        } catch (IOException gone) {
            // told below
        }
        journal.add(run.begunBy(), "afterwards", run.computer(), Journal.Result.FAILED,
            "The computer that did " + run.imageName() + " does not answer any more. Switch it off by hand.");
        return Optional.empty();
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
        return others.stream().anyMatch(run -> machine.isEmpty() || machine.equals(queue.machine(run))
            || !run.diskId().isEmpty() && machine(run).equals(machine));
    }

    private void carryOut(Wanted what) {
        Run run = what.run;
        try {
            host.afterwards(what.diskId, what.action);
            journal.add(run.begunBy(), "afterwards", what.name, Journal.Result.DONE,
                what.name + " " + what.action.phrase() + ", as was asked for.");
        } catch (FaultException refused) {
            journal.add(run.begunBy(), "afterwards", what.name, Journal.Result.FAILED, refused.getMessage());
        } catch (IOException failed) {
            journal.add(run.begunBy(), "afterwards", what.name, Journal.Result.FAILED,
                what.name + " was to be " + what.action.word() + ", which failed: " + failed.getMessage() + ".");
        }
    }
}
