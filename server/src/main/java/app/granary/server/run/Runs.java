package app.granary.server.run;

import app.granary.core.image.ImageName;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteUnfinished;
import app.granary.engine.site.Storage;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.estimate.Prospect;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.transaction.annotation.Transactional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.PageRequest;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Takes orders for long work, by hand and for a night, and everything a person does to it while it waits or runs. */
@Service
public class Runs {
    private static final Logger LOG = LoggerFactory.getLogger(Runs.class);
    private static final int LISTED = 200;

    private final Site site;
    private final RunQueue queue;
    private final RunWork work;
    private final Passphrases passphrases;
    private final DisksOnRecord disks;
    private final Images images;
    private final Journal journal;
    private final RunRepository repository;
    private final Clock clock;

    Runs(Site site, RunQueue queue, RunWork work, Passphrases passphrases, DisksOnRecord disks, Images images, Journal journal, RunRepository repository, Clock clock) {
        this.site = site;
        this.queue = queue;
        this.work = work;
        this.passphrases = passphrases;
        this.disks = disks;
        this.images = images;
        this.journal = journal;
        this.repository = repository;
        this.clock = clock;
    }

    /** Work that was under way when Granary went down did not end; it is said so, once. What waited waits again. */
    @EventListener(ApplicationStartedEvent.class)
    void endInterrupted() {
        sweep();
        for (Run run : repository.findByState(Run.State.RUNNING)) {
            run.end(Run.State.FAILED, clock.instant(), "Granary was ended while this ran. " + whatIsThere(run));
            repository.save(run);
            work.tell(run);
            journal.add(run.begunBy(), run.kind().word(), run.subject(), Journal.Result.FAILED, run.outcome(), run.facts());
        }
        List<Run> queued = repository.findByState(Run.State.QUEUED);
        queue.takeUp(queued.stream().filter(run -> !run.kind().overwrites()).toList());
        for (Run run : queued.stream().filter(each -> each.kind().overwrites()).toList()) {
            run.end(Run.State.STOPPED, clock.instant(),
                "Granary was started anew before this began, and overwrites a disk only for someone who has just looked at it. Look at the disk, and confirm it again.");
            repository.save(run);
            work.tell(run);
            journal.add(run.begunBy(), run.kind().word(), run.subject(), Journal.Result.STOPPED, run.outcome(), run.facts());
        }
    }

    private void sweep() {
        try {
            site.sweep();
        } catch (IOException | RuntimeException notNow) {
            LOG.warn("scratch of earlier work could not be removed", notNow);
        }
    }

    private String whatIsThere(Run run) {
        if (run.kind() != Run.Kind.CAPTURE) {
            return run.kind() == Run.Kind.REPAIR ? "Mend it again; what was mended stays mended." : "Start it again.";
        }
        try {
            if (site.unfinished(run.destinationId()).stream().anyMatch(each -> each.carryable() && each.name().equals(run.imageName()))) {
                return "What was written is kept on " + run.destination() + "; carry it on, or discard it.";
            }
            if (images.takeOn(run.destinationId(), run.destination(), run.imageName(), run.diskId(), run.computer(), run.disk(), run.begunBy())) {
                return "Its image had just been given its name, and is on the shelf; check it.";
            }
        } catch (IOException notThere) {
            // the drive is not attached: what lies on it shows when it is
        }
        return "No image was named; what was written shows when " + run.destination() + " is attached. Start it again, or carry it on then.";
    }

    List<Run> newest() {
        return repository.findAllByOrderByBegunAtDesc(PageRequest.of(0, LISTED));
    }

    Run one(UUID id) {
        return repository.findById(id).orElseThrow(() -> Refused.notFound("run"));
    }

    Collection<LiveRun> underWay() {
        return queue.underWay();
    }

    List<Run> waiting() {
        return queue.waiting();
    }

    /** Begins a capture, or lets it wait until its devices are free; refuses at once what could not begin now for a reason that will not go away by waiting. */
    synchronized Run beginCapture(String diskId, String destinationId, String name, Storage storage, String who) throws IOException {
        ImageName.parse(name);
        requireFree(diskId, destinationId, name);
        Prospect prospect = work.preflight(diskId, destinationId, storage, RunWork.Moment.ASKED);
        String destination = prospect.to(destinationId).destination().name();
        Run run = Run.capture(prospect.source().computer().name(), diskId, prospect.source().disk().name(), destinationId, destination, name, clock.instant(), who)
            .with(work.written(RunOrder.capture(storage, "", "")), !storage.passphrase().isNone(), false);
        return add(run, storage.passphrase());
    }

    private Run add(Run run, Passphrase passphrase) {
        passphrases.keep(run.id(), passphrase);
        return queue.add(run);
    }

    private void requireFree(String diskId, String destinationId, String name) {
        if (images.exists(destinationId, name)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name", "There is an image named " + name + " on that destination already. Choose another name.");
        }
        boolean captured = queue.underWay().stream().anyMatch(l -> l.run().diskId().equals(diskId) && l.run().kind() == Run.Kind.CAPTURE)
            || queue.waiting().stream().anyMatch(run -> run.diskId().equals(diskId) && run.kind() == Run.Kind.CAPTURE && run.night() == null);
        if (captured) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "diskId", "This disk is being captured already, or waits to be. Watch that run, or stop it first.");
        }
    }

    /** A plan's image of a night, which starts at its time. */
    public record Planned(UUID planId, String computer, String diskId, String disk, String destinationId, String destination, Storage storage, String naming, String afterwards, Instant startsAt) {
    }

    /** Puts a night's images into the queue, in place of what waited for that night before. */
    public synchronized void queueNight(LocalDate night, List<Planned> rows, String who) {
        queue.waiting().stream().filter(run -> night.equals(run.night())).forEach(run -> cancel(run, "The night was started again."));
        for (Planned row : rows) {
            Run run = Run.capture(row.computer, row.diskId, row.disk, row.destinationId, row.destination, row.computer + " " + row.disk, clock.instant(), who)
                .with(work.written(RunOrder.capture(row.storage, row.naming, row.afterwards)), !row.storage.passphrase().isNone(), false).inNight(night, row.planId, row.startsAt);
            add(run, row.storage.passphrase());
        }
    }

    /** Disks whose capture is under way or waits. */
    public Set<String> capturing() {
        return Stream.concat(waiting().stream(), underWay().stream().map(LiveRun::run)).filter(run -> run.kind() == Run.Kind.CAPTURE).map(Run::diskId).collect(Collectors.toSet());
    }

    /** Takes note that a run failed, so that it is not told of again. */
    @Transactional
    public void see(UUID id, String who) {
        Run run = repository.findById(id).orElseThrow(() -> Refused.notFound("run"));
        run.see(clock.instant());
        repository.save(run);
        journal.add(who, "take note", run.subject(), Journal.Result.NOTE, who + " took note: " + run.outcome());
    }

    /** Whether anything of a night is waiting or under way. */
    public boolean nightUnderWay(LocalDate night) {
        return queue.waiting().stream().anyMatch(run -> night.equals(run.night())) || queue.underWay().stream().anyMatch(run -> night.equals(run.run().night()));
    }

    private void cancel(Run run, String why) {
        queue.takeOut(run.id());
        run.end(Run.State.STOPPED, clock.instant(), why);
        repository.save(run);
        work.tell(run);
    }

    /** Carries an unfinished capture on, from its own disk. */
    Run beginCarryOn(String destinationId, String name, Passphrase passphrase, String who) throws IOException {
        SiteUnfinished left = unfinished(destinationId, name);
        if (!left.carryable()) {
            throw new Refused(HttpStatus.CONFLICT, "not-carryable", "", "What lies there of " + name + " cannot be carried on. Discard it, and begin anew.");
        }
        DisksOnRecord.DiskOnRecord disk = disks.all().stream().filter(d -> d.identity().same(left.disk())).findFirst().orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "unknown-disk", "",
            name + " was read of " + left.disk().model() + " " + left.disk().serial() + ", which is not in this office. Attach that disk, or discard what was written."));
        if (left.encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase", name + " is encrypted. Give the passphrase it was begun with.");
        }
        requireFree(disk.id(), destinationId, name);
        Optional<Run> begun = repository.findFirstByDestinationIdAndImageNameAndKindOrderByBegunAtDesc(destinationId, name, Run.Kind.CAPTURE);
        Run run = Run.capture(disk.computer(), disk.id(), disk.name(), destinationId, images.destinationName(destinationId), name, clock.instant(), who)
            .with(work.written(RunOrder.carryingOn()), left.encrypted(), false);
        begun.ifPresent(before -> run.inNight(null, before.planId(), null));
        return add(run, passphrase);
    }

    /** Whether no run is at work on that unfinished capture. */
    boolean isIdle(String destinationId, String name) {
        return queue.underWay().stream().noneMatch(l -> l.run().destinationId().equals(destinationId) && l.run().imageName().equals(name));
    }

    /** What the last run of it said; an empty string when none is known. */
    String whyEnded(String destinationId, String name) {
        return repository.findFirstByDestinationIdAndImageNameAndKindOrderByBegunAtDesc(destinationId, name, Run.Kind.CAPTURE).map(Run::outcome).orElse("");
    }

    private SiteUnfinished unfinished(String destinationId, String name) throws IOException {
        return site.unfinished(destinationId).stream().filter(each -> each.name().equals(name)).findFirst().orElseThrow(() -> Refused.notFound("unfinished capture"));
    }

    void discard(String destinationId, String name, String who) throws IOException {
        SiteUnfinished left = unfinished(destinationId, name);
        if (!isIdle(destinationId, name)) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "", name + " is under way. Stop it first.");
        }
        site.discard(destinationId, name);
        journal.add(who, "discard", left.carryable() ? left.disk().model() + " " + left.disk().serial() : name, Journal.Result.DONE, (left.carryable() ? "The unfinished capture " : "What was left of ") + name + " on " + images.destinationName(destinationId)
            + " was discarded; " + app.granary.core.measure.Sizes.decimal(left.storedBytes()) + " are free again.");
    }

    /** @param low whether it gives way to other work */
    public Run beginCheck(UUID imageId, ProofLevel level, Passphrase passphrase, boolean low, String who) {
        return ofImage(Run.Kind.CHECK, imageId, RunOrder.proving(level, ""), passphrase, low, who, "Check of %s on %s, up to " + level.word() + ", asked for.");
    }

    Run beginCopy(UUID imageId, String toDestinationId, String who) throws IOException {
        if (images.exists(toDestinationId, images.shelved(imageId).name())) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "toDestinationId", "There is an image of that name on that destination already. Choose another destination.");
        }
        work.requireRoom(toDestinationId, images.shelved(imageId).storedBytes());
        return ofImage(Run.Kind.COPY, imageId, RunOrder.proving(ProofLevel.SOUND, toDestinationId), Passphrase.NONE, false, who, "Copy of %s from %s asked for.");
    }

    Run beginRepair(UUID imageId, UUID fromImageId, Passphrase passphrase, String who) {
        Images.Shelved from = images.shelved(fromImageId);
        if (!images.areCopies(imageId, fromImageId)) {
            throw new Refused(HttpStatus.CONFLICT, "bad-choice", "fromImageId", from.name() + " on " + from.destination() + " is not a copy of this image. Choose one that is.");
        }
        boolean opens = !from.encrypted() || !passphrase.isNone();
        return ofImage(Run.Kind.REPAIR, imageId, RunOrder.proving(opens ? ProofLevel.READABLE : ProofLevel.SOUND, from.destinationId()), passphrase, false, who, "Repair of %s on %s from "
            + from.destination() + " asked for.");
    }

    private Run ofImage(Run.Kind kind, UUID imageId, RunOrder order, Passphrase passphrase, boolean low, String who, String sentence) {
        Images.Shelved image = images.shelved(imageId);
        requirePossible(kind, image, ProofLevel.valueOf(order.proof()));
        if (kind != Run.Kind.COPY && image.encrypted() && passphrase.isNone() && ProofLevel.valueOf(order.proof()).includes(ProofLevel.READABLE)) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase", image.name() + " is encrypted. Give its passphrase, or check it up to sound, which needs none.");
        }
        boolean twice = queue.underWay().stream().anyMatch(l -> imageId.equals(l.run().imageId()) && l.run().kind() == kind)
            || queue.waiting().stream().anyMatch(run -> imageId.equals(run.imageId()) && run.kind() == kind);
        if (twice) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "", "That is asked for already, and waits or is under way. See Runs.");
        }
        Run run = Run.ofImage(kind, imageId, image, clock.instant(), who).with(work.written(order), image.encrypted(), low);
        journal.add(who, kind.word(), run.subject(), Journal.Result.BEGUN, String.format(sentence, image.name(), image.destination()));
        return add(run, passphrase);
    }

    private static void requirePossible(Run.Kind kind, Images.Shelved image, ProofLevel level) {
        if (image.format() == Images.Format.UNSEEN) {
            throw new Refused(HttpStatus.CONFLICT, "unseen", "", "The files of " + image.name() + " were never seen; it is a line from a paper log. Attach what they lie on and add them as an image made elsewhere.");
        }
        if (image.format() == Images.Format.OTHER && kind != Run.Kind.CHECK) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "", image.name() + " was made with other tools. Copy its files with them, and add the copy as an image made elsewhere.");
        }
        if (image.format() == Images.Format.OTHER && level.includes(ProofLevel.REHEARSED)) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "level", image.name() + " was made with other tools and has no index of its chunks to compare a rehearsal with. Check it up to readable.");
        }
    }

    private LiveRun live(UUID id) {
        return queue.live(id).orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "not-running", "", "This run has ended already, or has not begun."));
    }

    void stop(UUID id, String who) {
        Optional<Run> waited = queue.waiting().stream().filter(run -> run.id().equals(id)).findFirst();
        if (waited.isPresent()) {
            cancel(waited.get(), who + " took it out of the queue before it began.");
            journal.add(who, "stop", waited.get().subject(), Journal.Result.STOPPED, who + " took " + waited.get().imageName() + " out of the queue.");
            return;
        }
        LiveRun running = live(id);
        journal.add(who, "stop", running.run().subject(), Journal.Result.BEGUN, who + " asked to stop " + running.run().imageName() + ".");
        running.stop();
    }

    void pause(UUID id, boolean paused, String who) {
        LiveRun running = live(id);
        queue.pause(running, paused);
        journal.add(who, "pause", running.run().subject(), Journal.Result.NOTE, running.run().imageName() + (paused ? " is held." : " goes on."));
    }

    void lower(UUID id, boolean low, String who) {
        Optional<LiveRun> running = queue.live(id);
        Run run = running.map(LiveRun::run).orElseGet(() -> waiting(id));
        run.lower(low);
        running.ifPresentOrElse(now -> queue.lower(now, low), () -> repository.save(run));
        journal.add(who, "priority", run.subject(), Journal.Result.NOTE, run.imageName() + (low ? " gives way to other runs." : " runs at usual priority."));
    }

    private Run waiting(UUID id) {
        return queue.waiting().stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow(() -> Refused.notFound("waiting run"));
    }

    /** Lets a waiting run begin as soon as its devices are free, whatever time it was to start at. */
    void startNow(UUID id, Passphrase passphrase, String who) {
        Run run = waiting(id);
        run.startAt(null);
        passphrases.keep(id, passphrase);
        repository.save(run);
        journal.add(who, "start", run.subject(), Journal.Result.NOTE, who + " started " + run.imageName() + " by hand.");
        queue.look();
    }
}
