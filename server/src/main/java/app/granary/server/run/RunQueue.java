package app.granary.server.run;

import app.granary.core.claim.Claims;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.progress.Progress;
import app.granary.server.destination.Promises;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Starts waiting runs as their time comes and as devices allow: each holds its devices from before it begins until it has ended, and no
 * more run at once than the
 * processors are good for. This is the one place that decides, under one lock, when a run is asked for and when it begins. What waits is
 * kept, so that a restart
 * loses nothing of it.
 */
@Component
class RunQueue {
    private static final Logger LOG = LoggerFactory.getLogger(RunQueue.class);
    /** A capture already uses all processors; a second may run beside it on small machines, on larger ones one for each pair of cores. */
    private static final int AT_ONCE = Math.max(2, Runtime.getRuntime().availableProcessors() / 2);
    private static final int LAST_BREATH_SECONDS = 15;

    private final RunWork work;
    private final RunDevices devices;
    private final RunRepository repository;
    private final Promises promises;
    private final Passphrases passphrases;
    private final Journal journal;
    private final RunEvents events;
    private final ApplicationEventPublisher publisher;
    private final Clock clock;
    private final Map<UUID, LiveRun> live = new ConcurrentHashMap<>();
    private final List<Run> waiting = new ArrayList<>();
    private final Claims<UUID> claims = new Claims<>();
    /** Of those that wait; asking for them takes a moment, and they are asked for again before one begins. */
    private final Map<UUID, List<DeviceClaim>> wanted = new HashMap<>();
    /** Ended, and not stored yet because the database failed. */
    private final Queue<Run> unstored = new ConcurrentLinkedQueue<>();
    private final ExecutorService workers = Executors.newFixedThreadPool(AT_ONCE);
    private boolean closing;

    RunQueue(RunWork work, RunDevices devices, RunRepository repository, Promises promises, Passphrases passphrases, Journal journal,
        RunEvents events, ApplicationEventPublisher publisher, Clock clock) {
        this.work = work;
        this.devices = devices;
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

    /** Without those that have ended: they hold nothing any more, whatever is left to be told of them. */
    Collection<LiveRun> underWay() {
        return live.values().stream().filter(each -> each.run().endedAt() == null).toList();
    }

    Optional<LiveRun> live(UUID id) {
        return Optional.ofNullable(live.get(id));
    }

    synchronized List<Run> waiting() {
        return List.copyOf(waiting);
    }

    /** @throws Refused when it would overwrite what another run uses, or is to overwrite */
    synchronized Run add(Run run) {
        if (run.kind().overwrites()) {
            requireFree(devices.of(run));
        }
        Run kept = repository.save(run);
        waiting.add(kept);
        look();
        events.changed();
        return kept;
    }

    /** @throws Refused when a device that is to be overwritten is held by a run, or another one waits to overwrite it */
    synchronized void requireFree(List<DeviceClaim> asked) {
        List<DeviceClaim> overwritten = asked.stream().filter(claim -> claim.use() == DeviceClaim.Use.WRITE).toList();
        for (DeviceClaim each : overwritten) {
            Optional<Claims.Blocked<UUID>> held = claims.blocked(List.of(each));
            if (held.isPresent()) {
                Run by = live.get(held.get().by()).run();
                throw new Refused(HttpStatus.CONFLICT, "busy", "targetId", each.device().name() + (writes(by, each)
                    ? " is being overwritten already"
                    : " is used by " + by.imageName() + " now")
                        + ". See Runs; wait until that has ended, stop it, or choose another disk.");
            }
            Optional<Run> first = waiting.stream().filter(run -> run.kind().overwrites() && writes(run, each)).findFirst();
            if (first.isPresent()) {
                throw new Refused(HttpStatus.CONFLICT, "busy", "targetId", each.device().name()
                    + " is being overwritten already, or waits to be. See Runs; stop that first, or choose another disk.");
            }
        }
    }

    private boolean writes(Run run, DeviceClaim claim) {
        return devices.of(run).stream().anyMatch(each -> each.use() == DeviceClaim.Use.WRITE && each.device().key().equals(claim.device()
            .key()));
    }

    /** @return whether it was waiting; it is not any more */
    synchronized Optional<Run> takeOut(UUID id) {
        Optional<Run> found = waiting.stream().filter(run -> run.id().equals(id)).findFirst();
        found.ifPresent(run -> {
            waiting.remove(run);
            wanted.remove(id);
            passphrases.forget(id);
        });
        return found;
    }

    /** Starts whatever may start now. */
    @Scheduled(fixedDelay = 500)
    synchronized void look() {
        storeWhatCouldNotBe();
        Instant now = clock.instant();
        List<Run> due = waiting.stream().filter(run -> run.startsAt() == null || !run.startsAt().isAfter(now))
            .sorted(Comparator.comparing(Run::lowPriority).thenComparing(run -> run.startsAt() == null ? run.begunAt() : run.startsAt())).toList();
        List<Claims.Ahead<UUID>> ahead = new ArrayList<>();
        for (Run run : due) {
            if (closing) {
                return;
            }
            String why = waitsFor(run, ahead);
            if (why.isEmpty()) {
                waiting.remove(run);
                wanted.remove(run.id());
                start(run);
            } else if (!why.equals(run.outcome())) {
                run.waitFor(why);
                repository.save(run);
                events.changed();
            }
        }
    }

    /** What it waits for, in a sentence; an empty string when it holds its devices and may start. */
    private String waitsFor(Run run, List<Claims.Ahead<UUID>> ahead) {
        if (run.encrypted() && (run.kind() == Run.Kind.CAPTURE || run.kind() == Run.Kind.RESTORE || run.kind() == Run.Kind.REHEARSAL) && passphrases.of(run.id()).isNone()) {
            return "It waits for its passphrase, which was not kept when Granary ended.";
        }
        if (live.size() >= AT_ONCE) {
            return "It waits until one of the " + AT_ONCE + " runs under way has ended.";
        }
        List<DeviceClaim> asked = wanted.computeIfAbsent(run.id(), none -> devices.of(run));
        Optional<Claims.Blocked<UUID>> blocked = claims.blocked(asked);
        if (blocked.isEmpty()) {
            asked = devices.of(run);
            blocked = claims.take(run.id(), asked, ahead);
        }
        if (blocked.isEmpty()) {
            return "";
        }
        ahead.add(new Claims.Ahead<>(run.id(), asked));
        UUID by = blocked.get().by();
        String name = live(by).map(LiveRun::run).or(() -> waiting.stream().filter(each -> each.id().equals(by)).findFirst())
            .map(Run::imageName).orElse("another run");
        return "It waits until " + blocked.get().device().name() + " is free: " + name + (blocked.get().holds() ? " uses it."
            : " comes first.");
    }

    private void start(Run run) {
        try {
            LiveRun running = work.prepare(run, now -> events.changed());
            running.giveWay(run.lowPriority(), this::usualUnderWay);
            live.put(run.id(), running);
            repository.save(run);
            workers.execute(() -> perform(running));
        } catch (RuntimeException notBegun) { // it waits again; a restart finds it as it was
            LOG.error("run {} could not begin", run.id(), notBegun);
            live.remove(run.id());
            claims.free(run.id());
            waiting.add(run);
        }
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

    private record Outcome(Run.State state, Journal.Result result, String sentence) {
        static Outcome failed(String sentence) {
            return new Outcome(Run.State.FAILED, Journal.Result.FAILED, sentence);
        }
    }

    private void perform(LiveRun running) {
        finish(running, outcome(running));
    }

    private Outcome outcome(LiveRun running) {
        Run run = running.run();
        try {
            return new Outcome(Run.State.DONE, Journal.Result.DONE, work.perform(running, passphrases.of(run.id())));
        } catch (FaultException fault) {
            boolean stopped = fault.fault().kind() == Fault.Kind.STOPPED;
            return new Outcome(stopped ? Run.State.STOPPED : Run.State.FAILED, stopped ? Journal.Result.STOPPED : Journal.Result.FAILED,
                fault.getMessage() + work.whatIsLeft(run, fault.fault()));
        } catch (Refused refused) {
            return Outcome.failed(refused.getMessage());
        } catch (Throwable unforeseen) { // an Error too: it ends this run, and what the run holds must come free
            LOG.error("run {} failed", run.id(), unforeseen);
            return Outcome.failed("It failed for a reason Granary did not foresee (" + unforeseen.getMessage() + "). "
                + (run.kind() == Run.Kind.CAPTURE ? "No image was named; the disk is untouched."
                    : "Look at its devices, then start it again."));
        }
    }

    /**
     * The outcome is stored first, and once, and what the run held comes free in the same moment: whoever reads that it has ended may ask
     * for its devices. Whoever is told of it afterwards cannot undo it.
     */
    private void finish(LiveRun running, Outcome outcome) {
        Run run = running.run();
        synchronized (this) {
            promises.release(run.id());
            passphrases.forget(run.id());
            run.took(running.seconds(Progress.Stage.CAPTURING), running.seconds(Progress.Stage.CHECKING));
            run.end(outcome.state, clock.instant(), outcome.sentence);
            if (!stored(run)) {
                unstored.add(run);
            }
            live.remove(run.id());
            claims.free(run.id());
        }
        tell(run, () -> work.tell(run));
        tell(run, () -> journal.add(run.begunBy(), run.kind().word(), run.subject(), outcome.result, run.outcome(), run.facts()));
        tell(run, () -> publisher.publishEvent(new Ended(run)));
        events.changed();
        tell(run, this::look);
    }

    private boolean stored(Run run) {
        try {
            repository.save(run);
            return true;
        } catch (RuntimeException failed) {
            LOG.error("the outcome of run {} could not be stored yet", run.id(), failed);
            return false;
        }
    }

    private void storeWhatCouldNotBe() {
        for (Run next = unstored.peek(); next != null && stored(next); next = unstored.peek()) {
            unstored.remove(next);
        }
    }

    private static void tell(Run run, Runnable listener) {
        try {
            listener.run();
        } catch (RuntimeException failed) {
            LOG.error("run {} has ended, and telling of it failed", run.id(), failed);
        }
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
