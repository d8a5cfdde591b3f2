package app.granary.server.run;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.progress.Progress;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Starts waiting runs as their time comes and as devices allow: never two on one disk or one drive, never more than the processors are good for. What waits is
 * kept, so that a restart loses nothing of it.
 */
@Component
class RunQueue {
    private static final Logger LOG = LoggerFactory.getLogger(RunQueue.class);
    /** A capture already uses all processors; a second may run beside it on small machines, on larger ones one for each pair of cores. */
    private static final int AT_ONCE = Math.max(2, Runtime.getRuntime().availableProcessors() / 2);
    private static final int LAST_BREATH_SECONDS = 15;

    private final RunWork work;
    private final RunRepository repository;
    private final Promises promises;
    private final Passphrases passphrases;
    private final Journal journal;
    private final RunEvents events;
    private final ApplicationEventPublisher publisher;
    private final Clock clock;
    private final Map<UUID, LiveRun> live = new ConcurrentHashMap<>();
    private final List<Run> waiting = new ArrayList<>();
    private final ExecutorService workers = Executors.newFixedThreadPool(AT_ONCE);
    private boolean closing;

    RunQueue(RunWork work, RunRepository repository, Promises promises, Passphrases passphrases, Journal journal, RunEvents events, ApplicationEventPublisher publisher, Clock clock) {
        this.work = work;
        this.repository = repository;
        this.promises = promises;
        this.passphrases = passphrases;
        this.journal = journal;
        this.events = events;
        this.publisher = publisher;
        this.clock = clock;
    }

    /** A run has ended, one way or another. */
    record Ended(Run run) {
    }

    Collection<LiveRun> underWay() {
        return live.values();
    }

    Optional<LiveRun> live(UUID id) {
        return Optional.ofNullable(live.get(id));
    }

    synchronized List<Run> waiting() {
        return List.copyOf(waiting);
    }

    synchronized Run add(Run run) {
        Run kept = repository.save(run);
        waiting.add(kept);
        look();
        events.changed();
        return kept;
    }

    /** @return whether it was waiting; it is not any more */
    synchronized Optional<Run> takeOut(UUID id) {
        Optional<Run> found = waiting.stream().filter(run -> run.id().equals(id)).findFirst();
        found.ifPresent(run -> {
            waiting.remove(run);
            passphrases.forget(id);
        });
        return found;
    }

    /** Starts whatever may start now. */
    @Scheduled(fixedDelay = 500)
    synchronized void look() {
        Instant now = clock.instant();
        List<Run> due = waiting.stream().filter(run -> run.startsAt() == null || !run.startsAt().isAfter(now))
            .sorted(Comparator.comparing(Run::lowPriority).thenComparing(run -> run.startsAt() == null ? run.begunAt() : run.startsAt())).toList();
        for (Run run : due) {
            String why = waitsFor(run);
            if (why.isEmpty() && !closing) {
                waiting.remove(run);
                start(run);
            } else if (!why.equals(run.outcome())) {
                run.waitFor(why);
                repository.save(run);
                events.changed();
            }
        }
    }

    /** What it waits for, in a sentence; an empty string when it may start. */
    private String waitsFor(Run run) {
        if (run.encrypted() && (run.kind() == Run.Kind.CAPTURE || run.kind() == Run.Kind.RESTORE || run.kind() == Run.Kind.REHEARSAL) && passphrases.of(run.id()).isNone()) {
            return "It waits for its passphrase, which was not kept when Granary ended.";
        }
        for (LiveRun other : live.values()) {
            if (other.run().diskId().equals(run.diskId()) && other.run().kind() == Run.Kind.CAPTURE && run.kind() == Run.Kind.CAPTURE) {
                return "It waits until this disk's other capture has ended.";
            }
            if (other.run().destinationId().equals(run.destinationId())) {
                return "It waits until " + run.destination() + " is free: " + other.run().imageName() + " uses it.";
            }
        }
        return live.size() >= AT_ONCE ? "It waits until one of the " + AT_ONCE + " runs under way has ended." : "";
    }

    private void start(Run run) {
        LiveRun running = work.prepare(run, now -> events.changed());
        running.giveWay(run.lowPriority(), this::usualUnderWay);
        live.put(run.id(), running);
        repository.save(run);
        workers.execute(() -> perform(running));
        events.changed();
    }

    void pause(LiveRun running, boolean paused) {
        running.pause(paused);
        events.changed(); // a held run tells nothing by itself
    }

    void lower(LiveRun running, boolean low) {
        running.run().lower(low);
        running.giveWay(low, this::usualUnderWay);
        events.changed();
    }

    private boolean usualUnderWay() {
        return live.values().stream().anyMatch(other -> !other.low() && !other.paused());
    }

    private void perform(LiveRun running) {
        Run run = running.run();
        try {
            finish(running, Run.State.DONE, Journal.Result.DONE, work.perform(running, passphrases.of(run.id())));
        } catch (FaultException fault) {
            boolean stopped = fault.fault().kind() == Fault.Kind.STOPPED;
            finish(running, stopped ? Run.State.STOPPED : Run.State.FAILED, stopped ? Journal.Result.STOPPED : Journal.Result.FAILED, fault.getMessage() + work.whatIsLeft(run, fault.fault()));
        } catch (Refused refused) {
            finish(running, Run.State.FAILED, Journal.Result.FAILED, refused.getMessage());
        } catch (IOException | RuntimeException unforeseen) {
            LOG.error("run {} failed", run.id(), unforeseen);
            finish(running, Run.State.FAILED, Journal.Result.FAILED, "It failed for a reason Granary did not foresee (" + unforeseen.getMessage() + "). " + (run.kind() == Run.Kind.CAPTURE ? "No image was named; the disk is untouched." : "Look at its devices, then start it again."));
        }
    }

    private void finish(LiveRun running, Run.State state, Journal.Result result, String sentence) {
        Run run = running.run();
        run.end(state, clock.instant(), sentence);
        run.took(running.seconds(Progress.Stage.CAPTURING), running.seconds(Progress.Stage.CHECKING));
        repository.save(run);
        work.tell(run);
        journal.add(run.begunBy(), run.kind().word(), run.subject(), result, run.outcome(), run.facts());
        live.remove(run.id());
        promises.release(run.id());
        passphrases.forget(run.id());
        publisher.publishEvent(new Ended(run));
        events.changed();
        look();
    }

    /** What waited when Granary ended waits again. */
    synchronized void takeUp(List<Run> queued) {
        waiting.addAll(queued);
    }

    @PreDestroy
    void stopAll() throws InterruptedException {
        synchronized (this) {
            closing = true;
        }
        live.values().forEach(LiveRun::stop);
        workers.shutdown();
        workers.awaitTermination(LAST_BREATH_SECONDS, TimeUnit.SECONDS);
    }
}
