package app.granary.server.run;

import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.bag.ImageName;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.Storage;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.PageRequest;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Starts, watches, stops and records long work. */
@Service
public class Runs {
    private static final Logger LOG = LoggerFactory.getLogger(Runs.class);
    /** A capture already uses all processors; a second may run beside it, more would only wait for each other. */
    private static final int AT_ONCE = 2;
    private static final int LISTED = 200;

    private final Site site;
    private final Prospects prospects;
    private final Promises promises;
    private final Images images;
    private final Journal journal;
    private final RunRepository repository;
    private final RunEvents events;
    private final Clock clock;
    private final Map<UUID, LiveRun> live = new ConcurrentHashMap<>();
    private final ExecutorService workers = Executors.newFixedThreadPool(AT_ONCE);

    Runs(Site site, Prospects prospects, Promises promises, Images images, Journal journal, RunRepository repository, RunEvents events, Clock clock) {
        this.site = site;
        this.prospects = prospects;
        this.promises = promises;
        this.images = images;
        this.journal = journal;
        this.repository = repository;
        this.events = events;
        this.clock = clock;
    }

    /** Work that was under way when Granary went down did not end; it is said so, once. */
    @EventListener(ApplicationStartedEvent.class)
    void endInterrupted() {
        for (Run run : repository.findByState(Run.State.RUNNING)) {
            run.end(Run.State.FAILED, clock.instant(), "Granary was ended while this ran. No image was named; start it again.");
            repository.save(run);
            journal.add(run.begunBy(), run.kind().word(), subject(run), Journal.Result.FAILED, run.outcome());
        }
    }

    List<Run> newest() {
        return repository.findAllByOrderByBegunAtDesc(PageRequest.of(0, LISTED));
    }

    Run one(UUID id) {
        return repository.findById(id).orElseThrow(() -> Refused.notFound("run"));
    }

    Collection<LiveRun> underWay() {
        return live.values();
    }

    /** Looks at everything once more at the moment of starting, refuses with the reason, or begins. */
    synchronized Run beginCapture(String diskId, String destinationId, String name, Storage storage, String who) throws IOException {
        ImageName.parse(name);
        if (images.exists(destinationId, name)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name", "There is an image named " + name + " on that destination already. Choose another name.");
        }
        if (live.values().stream().anyMatch(l -> l.run().diskId().equals(diskId) && l.run().kind() == Run.Kind.CAPTURE)) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "diskId", "This disk is being captured already. Watch that run, or stop it first.");
        }
        if (live.size() >= AT_ONCE) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "", AT_ONCE + " runs are under way already. Wait for one to end, or stop one.");
        }
        Prospects.Prospect prospect = prospects.fresh(diskId, storage);
        DestinationAssessment chosen = prospect.assessments().stream().filter(a -> a.destination().id().equals(destinationId)).findFirst()
            .orElseThrow(() -> Refused.notFound("destination"));
        RuleOutcome broken = chosen.rules().stream().filter(rule -> !rule.holds()).findFirst().orElse(null);
        if (broken != null) {
            throw new Refused(HttpStatus.CONFLICT, "unfit-" + broken.rule(), "destinationId", broken.sentence());
        }
        Run run = repository.save(Run.capture(prospect, chosen.destination(), name, clock.instant(), who));
        long high = prospect.size().highBytes();
        promises.promise(run.id(), destinationId, high);
        journal.add(who, "capture", subject(run), Journal.Result.BEGUN, "Capture of " + prospect.source().label() + " (serial "
            + prospect.source().disk().identity().serial() + ") to " + run.destination() + " begun as " + name + ", about " + Sizes.decimal(run.likelyBytes()) + ".");
        LiveRun running = new LiveRun(run, prospect.source().disk().identity().serial(), now -> {
            promises.promise(run.id(), destinationId, high - now.progress().storedBytes());
            events.changed();
        });
        live.put(run.id(), running);
        workers.execute(() -> work(running, () -> capture(running, prospect, storage)));
        events.changed();
        return run;
    }

    private String capture(LiveRun running, Prospects.Prospect prospect, Storage storage) throws IOException {
        Run run = running.run();
        SiteImage made = site.capture(run.diskId(), run.destinationId(), run.imageName(), storage, running);
        UUID image = images.record(prospect, run.destinationId(), run.destination(), run.imageName(), made, run.begunBy());
        run.made(image, made.storedBytes());
        return "Image " + run.imageName() + " made on " + run.destination() + ": " + Sizes.decimal(made.storedBytes()) + " stored of " + Sizes.decimal(made.usedBytes())
            + " read, estimated " + Sizes.decimal(run.likelyBytes()) + ". Read back: every digest matches and every frame decodes.";
    }

    synchronized Run beginCheck(UUID imageId, String who) {
        Images.Shelved image = images.shelved(imageId);
        if (live.size() >= AT_ONCE) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "", AT_ONCE + " runs are under way already. Wait for one to end, or stop one.");
        }
        Run run = repository.save(Run.check(imageId, image.computer(), image.diskId(), image.disk(), image.destinationId(), image.destination(), image.name(),
            image.storedBytes(), clock.instant(), who));
        journal.add(who, "check", subject(run), Journal.Result.BEGUN, "Check of " + run.imageName() + " on " + run.destination() + " begun.");
        LiveRun running = new LiveRun(run, image.serial(), now -> events.changed());
        live.put(run.id(), running);
        workers.execute(() -> work(running, () -> check(running)));
        events.changed();
        return run;
    }

    private String check(LiveRun running) throws IOException {
        Run run = running.run();
        CheckOutcome outcome = site.check(run.destinationId(), run.imageName(), CheckDepth.FRAMES, running);
        images.recordCheck(run.imageId(), outcome, run.begunBy());
        if (!outcome.ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, run.imageName(), outcome.problems().get(0).message()).asException();
        }
        return "Image " + run.imageName() + " on " + run.destination() + " is sound: every digest matches and every frame decodes.";
    }

    private interface Task {
        String run() throws IOException;
    }

    private void work(LiveRun running, Task task) {
        Run run = running.run();
        try {
            finish(running, Run.State.DONE, Journal.Result.DONE, task.run());
        } catch (FaultException fault) {
            boolean stopped = fault.fault().kind() == Fault.Kind.STOPPED;
            finish(running, stopped ? Run.State.STOPPED : Run.State.FAILED, stopped ? Journal.Result.STOPPED : Journal.Result.FAILED, fault.getMessage());
        } catch (IOException | RuntimeException unforeseen) {
            LOG.error("run {} failed", run.id(), unforeseen);
            finish(running, Run.State.FAILED, Journal.Result.FAILED, "It failed for a reason Granary did not foresee (" + unforeseen.getMessage()
                + "). No image was named; the disk is untouched.");
        }
    }

    private void finish(LiveRun running, Run.State state, Journal.Result result, String sentence) {
        Run run = running.run();
        run.end(state, clock.instant(), sentence);
        repository.save(run);
        journal.add(run.begunBy(), run.kind().word(), subject(run), result, sentence);
        live.remove(run.id());
        promises.release(run.id());
        events.changed();
    }

    private static String subject(Run run) {
        return run.computer() + " " + run.disk();
    }

    void stop(UUID id, String who) {
        LiveRun running = live.get(id);
        if (running == null) {
            throw new Refused(HttpStatus.CONFLICT, "not-running", "", "This run has ended already.");
        }
        journal.add(who, "stop", subject(running.run()), Journal.Result.BEGUN, who + " asked to stop " + running.run().imageName() + ".");
        running.stop();
    }

    @PreDestroy
    void stopAll() throws InterruptedException {
        live.values().forEach(LiveRun::stop);
        workers.shutdown();
        workers.awaitTermination(15, TimeUnit.SECONDS);
    }
}
