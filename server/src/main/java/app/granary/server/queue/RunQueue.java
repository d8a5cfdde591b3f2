package app.granary.server.queue;

import app.granary.core.claim.Claims;
import app.granary.core.claim.DeviceClaim;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.change.Changes;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.problem.Refused;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionOperations;

/**
 * Starts waiting runs as their time comes and as devices allow: each holds its devices from before it begins until it has ended, and no
 * more run at once on one machine than its processors are good for. This is the one place that decides, under one lock, when a run is asked
 * for and when it begins. What waits is kept, so that a restart loses nothing of it.
 */
@Component
public class RunQueue {
    private static final Logger LOG = LoggerFactory.getLogger(RunQueue.class);
    private static final int LAST_BREATH_SECONDS = 15;

    private final Orders orders;
    private final DisksOnRecord disks;
    private final RunRepository repository;
    private final Passphrases passphrases;
    private final RunEnds ends;
    private final Changes changes;
    private final TransactionOperations transactions;
    private final Clock clock;
    private final LiveRuns live = new LiveRuns();
    private final List<RunRow> waiting = new ArrayList<>();
    private final Claims<UUID> claims = new Claims<>();
    private final RunWaits waits;
    private final RunConflicts conflicts;
    private final ExecutorService workers = Executors.newFixedThreadPool(LiveRuns.MOST);
    private boolean closing;

    RunQueue(Orders orders, DisksOnRecord disks, RunRepository repository, Passphrases passphrases, RunEnds ends, Changes changes,
        TransactionOperations transactions, Clock clock) {
        this.orders = orders;
        this.disks = disks;
        this.repository = repository;
        this.passphrases = passphrases;
        this.ends = ends;
        this.changes = changes;
        this.transactions = transactions;
        this.clock = clock;
        this.waits = new RunWaits(orders, passphrases, claims);
        this.conflicts = new RunConflicts(orders, claims);
    }

    /** Without those that have ended: they hold nothing any more, whatever is left to be told of them. */
    public Collection<LiveRun> underWay() {
        return live.all().stream().filter(each -> each.run().endedAt() == null).toList();
    }

    public Optional<LiveRun> live(UUID id) {
        return live.find(id);
    }

    /** The machine that does it, or is to, among those that joined; an empty string for the office's own. */
    public String machine(Run run) {
        return live(run.id()).map(LiveRun::machine).orElseGet(() -> orders.machine(run));
    }

    /** What a run was asked to do, also when it has ended; empty when that is not kept. */
    public Optional<Record> order(Run run) {
        return orders.kept(run);
    }

    /** In the order they were asked for. */
    public synchronized List<Run> waiting() {
        return List.copyOf(waiting);
    }

    /** Those that wait, and those that are under way. */
    public List<Run> open() {
        return Stream.concat(waiting().stream(), underWay().stream().map(LiveRun::run)).toList();
    }

    /**
     * @param order      of the kind's own type
     * @param passphrase none when there is none; kept in memory until it has ended
     * @param accepted   done when it is accepted, before it may begin; kept together with it, or not at all
     * @throws Refused when the same is asked for already, or it would overwrite what another run uses, or is to overwrite
     */
    public synchronized Run add(NewRun asked, Record order, Passphrase passphrase, String who, Runnable accepted) {
        RunRow run = new RunRow(asked, clock.instant(), who);
        orders.hold(run, order);
        RunRow kept;
        try {
            if (run.kind().overwrites()) {
                requireFree(orders.claims(run));
            }
            conflicts.requireOnce(run, open());
            kept = transactions.execute(status -> {
                accepted.run();
                RunRow saved = repository.save(run);
                orders.keep(saved, order);
                return saved;
            });
        } catch (RuntimeException refused) {
            orders.forget(run);
            throw refused;
        }
        passphrases.keep(run.id(), passphrase);
        waiting.add(kept);
        look();
        changes.note(Changes.Noun.RUNS);
        return kept;
    }

    /** @throws Refused when the same is asked for already; {@link #add} asks once more */
    public void requireOnce(NewRun asked) {
        conflicts.requireOnce(new RunRow(asked, clock.instant(), ""), open());
    }

    /**
     * @throws Refused when a device that is to be overwritten is held by a run, or another one waits to overwrite it; {@link #add} asks
     *                 once more
     */
    public synchronized void requireFree(List<DeviceClaim> asked) {
        conflicts.requireFree(asked, waiting, id -> live.find(id).orElseThrow().run());
    }

    /** Ends one that has not begun; does nothing to one that has. */
    public synchronized boolean takeOut(UUID id, String why) {
        Optional<RunRow> found = waiting.stream().filter(run -> run.id().equals(id)).findFirst();
        found.ifPresent(run -> {
            waiting.remove(run);
            waits.forget(run);
            ends.unbegun(run, why);
            changes.note(Changes.Noun.RUNS);
        });
        return found.isPresent();
    }

    /** Starts whatever may start now. */
    @Scheduled(fixedDelay = 500)
    public synchronized void look() {
        ends.storeWhatCouldNotBe();
        Instant now = clock.instant();
        List<RunRow> due = waiting.stream().filter(run -> run.startsAt() == null || !run.startsAt().isAfter(now))
            .sorted(Comparator.comparing(RunRow::lowPriority).thenComparing(run -> run.startsAt() == null ? run.begunAt() : run.startsAt()))
            .toList();
        List<Claims.Ahead<UUID>> ahead = new ArrayList<>();
        for (RunRow run : due) {
            if (closing) {
                return;
            }
            try {
                look(run, ahead);
            } catch (Refused gone) {
                drop(run, gone);
            } catch (RuntimeException notNow) { // it waits on, and the others need not wait for it
                LOG.error("run {} cannot begin yet", run.id(), notNow);
            }
        }
    }

    private void look(RunRow run, List<Claims.Ahead<UUID>> ahead) {
        RunWaits.Wait wait = waits.of(run, live.full(() -> orders.machine(run)), ahead, this::name);
        if (wait == RunWaits.Wait.NONE) {
            waiting.remove(run);
            waits.forget(run);
            start(run);
        } else if (run.waitFor(wait.what(), wait.sentence())) {
            repository.save(run);
            changes.note(Changes.Noun.RUNS);
        }
    }

    /** What it is about is gone: it can never begin. */
    private void drop(RunRow run, Refused gone) {
        waiting.remove(run);
        waits.forget(run);
        ends.dropped(run,
            RunEnds.Outcome.failed("It could not begin: " + gone.getMessage() + " Look at what it is about, and ask again."));
        changes.note(Changes.Noun.RUNS);
    }

    /** As people know it, of a run that waits or is under way. */
    private String name(UUID id) {
        return Stream.concat(live(id).map(LiveRun::run).stream(), waiting.stream()).filter(each -> each.id().equals(id)).findFirst()
            .map(Run::imageName).orElse("another run");
    }

    private void start(RunRow run) {
        try {
            run.begin(orders.name(run, clock.instant()), clock.instant());
            String machine = orders.machine(run);
            run.goesOnIn(orders.staysThere(run) ? machine : "");
            LiveRun running = begun(run, machine, false);
            repository.save(run);
            workers.execute(() -> perform(running));
        } catch (RuntimeException notBegun) { // it waits again; a restart finds it as it was
            LOG.error("run {} could not begin", run.id(), notBegun);
            live.end(run.id());
            claims.free(run.id());
            waiting.add(run);
        }
        changes.note(Changes.Noun.RUNS);
    }

    private void perform(LiveRun running) {
        RunRow run = running.row();
        RunEnds.Outcome outcome = ends.outcome(running, passphrases.of(run.id()));
        RunEnds.Ended ended = new RunEnds.Ended(run, orders.of(run), running.machine());
        Took took = running.took();
        // stored as ended and free in one moment: whoever reads that it has ended may ask for its devices
        synchronized (this) {
            ends.end(run, outcome, took);
            live.end(run.id());
            claims.free(run.id());
        }
        ends.tell(run, outcome, took);
        ends.publish(ended);
        changes.note(Changes.Noun.RUNS);
        ends.quietly(run, this::look);
    }

    public void pause(LiveRun running, boolean paused) {
        running.pause(paused);
        changes.note(Changes.Noun.RUNS); // a held run tells nothing by itself
    }

    /** @throws Refused when it neither waits nor is under way */
    public Run lower(UUID id, boolean low) {
        Optional<LiveRun> running = live(id);
        RunRow run = running.map(LiveRun::row).orElseGet(() -> waiting(id));
        run.lower(low);
        running.ifPresentOrElse(now -> live.lower(now, low), () -> repository.save(run));
        changes.note(Changes.Noun.RUNS);
        return run;
    }

    /** Lets a waiting run begin as soon as its devices are free, whatever time it was to start at. */
    public synchronized Run startNow(UUID id, Passphrase passphrase) {
        RunRow run = waiting(id);
        run.startAt(null);
        passphrases.keep(id, passphrase);
        repository.save(run);
        return run;
    }

    private synchronized RunRow waiting(UUID id) {
        return waiting.stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow(() -> Refused.notFound("waiting run"));
    }

    /**
     * What waited when Granary ended waits again, and what went on at other machines is heard of again.
     *
     * @return those of the latter whose devices are held by another
     */
    synchronized List<RunRow> takeUp(List<RunRow> queued, List<RunRow> goingOn) {
        waiting.addAll(queued);
        List<RunRow> blocked = new ArrayList<>();
        for (RunRow run : goingOn) {
            if (claims.take(run.id(), orders.claims(run), List.of()).isPresent()) {
                blocked.add(run);
                continue;
            }
            LiveRun running = begun(run, run.goesOnIn(), true);
            workers.execute(() -> perform(running));
        }
        return blocked;
    }

    private LiveRun begun(RunRow run, String machine, boolean again) {
        return live.begin(run, disks.find(run.diskId()).map(disk -> disk.identity().serial()).orElse(""), machine, again,
            now -> changes.note(Changes.Noun.PROGRESS));
    }

    @PreDestroy
    void stopAll() throws InterruptedException {
        synchronized (this) {
            closing = true;
        }
        live.all().forEach(LiveRun::stop);
        workers.shutdown();
        workers.awaitTermination(LAST_BREATH_SECONDS, TimeUnit.SECONDS);
    }
}
