package app.granary.server.capture;

import app.granary.core.measure.Durations;
import app.granary.server.journal.Journal;
import app.granary.server.mail.Outbox;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunEnds;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunWishes;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** One mail when a run by itself has ended, to those who were named for it. A night's runs have one mail together. */
@Component
public class RunMail {
    private final RunQueue queue;
    private final RunWishes wishes;
    private final Outbox outbox;
    private final Journal journal;

    RunMail(RunQueue queue, RunWishes wishes, Outbox outbox, Journal journal) {
        this.queue = queue;
        this.wishes = wishes;
        this.outbox = outbox;
        this.journal = journal;
    }

    /** Who is told how a run ended, or was told; empty for nobody. */
    public List<String> of(Run run) {
        return of(run, queue.order(run));
    }

    private List<String> of(Run run, Optional<Record> order) {
        return wishes.mailTo(run.id()).or(() -> order.filter(asked -> run.night() == null).filter(CaptureOrder.class::isInstance)
            .map(asked -> ((CaptureOrder) asked).told())).orElse(List.of());
    }

    /** Changes that, as long as it has not ended. */
    public void choose(UUID runId, List<String> to, String who) {
        Run run = Completion.open(queue, runId, "Its outcome is in the list of runs.");
        wishes.mailTo(runId, to);
        journal.add(who, "mail", run.subject(), Journal.Result.NOTE, "When " + run.imageName() + " has ended, "
            + (to.isEmpty() ? "nobody is mailed." : String.join(", ", to) + " is mailed."));
    }

    @EventListener
    void ended(RunEnds.Ended ended) {
        Run run = ended.run();
        List<String> to = of(run, Optional.of(ended.order()));
        if (!to.isEmpty()) {
            outbox.send(to, subject(run), text(run));
        }
    }

    /** The outcome first: it may be all that is read. */
    static String subject(Run run) {
        String what = switch (run.kind()) {
            case CAPTURE -> "image";
            case CHECK -> "check";
            case COPY -> "copy";
            case REPAIR -> "repair";
            case DISCS -> "discs";
            default -> run.kind().word();
        };
        return switch (run.state()) {
            case DONE -> "Done: ";
            case STOPPED -> "Stopped: ";
            default -> "FAILED: ";
        } + what + " of " + run.subject();
    }

    private static String text(Run run) {
        String took = run.endedAt() == null ? ""
            : "It took " + Durations.length(Duration.between(run.begunAt(), run.endedAt()).toSeconds()) + ".\n";
        return run.outcome() + "\n\n" + took + "Begun by " + run.begunBy() + ".\n";
    }
}
