package app.granary.server.capture;

import app.granary.core.plan.Afterwards;
import app.granary.core.image.ImageName;
import app.granary.core.measure.Sizes;
import app.granary.core.plan.FolderPattern;
import app.granary.core.plan.Plan;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.HostUnfinished;
import app.granary.engine.host.Storage;
import app.granary.engine.host.ImageStore;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.estimate.Prospect;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunRecords;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Takes orders for captures: by hand, for a night, and to carry on what did not come to its end. */
@Service
public class Captures {
    private final ImageStore store;
    private final RunQueue queue;
    private final RunRecords records;
    private final Preflights preflights;
    private final DisksOnRecord disks;
    private final Images images;
    private final RunMail mail;
    private final Journal journal;

    public Captures(ImageStore store, RunQueue queue, RunRecords records, Preflights preflights, DisksOnRecord disks, Images images,
        RunMail mail, Journal journal) {
        this.store = store;
        this.queue = queue;
        this.records = records;
        this.preflights = preflights;
        this.disks = disks;
        this.images = images;
        this.mail = mail;
        this.journal = journal;
    }

    /**
     * What follows an image.
     *
     * @param computer what becomes of it
     * @param folder   where on its drive the image lies in the end; none for the office's choice
     * @param mailTo   who is told how it ended, when it is of no night; empty for nobody
     */
    public record Then(Afterwards computer, FolderPattern folder, List<String> mailTo) {
        public static final Then NOTHING = new Then(Afterwards.NOTHING, FolderPattern.NONE, List.of());

        public static Then of(Plan plan) {
            return new Then(plan.afterwards(), plan.folder(), plan.mailTo());
        }
    }

    /**
     * Begins one, or lets it wait until its devices are free; refuses at once what could not begin now for a reason that will not go away
     * by waiting.
     */
    public synchronized Run begin(String diskId, String destinationId, String name, Storage storage, Then then, String who)
        throws IOException {
        ImageName.parse(name);
        requireFree(diskId, destinationId, name);
        Prospect prospect = preflights.look(diskId, destinationId, storage, Preflights.Moment.ASKED);
        String destination = prospect.to(destinationId).destination().name();
        NewRun.About about = new NewRun.About(prospect.source().computer().name(), diskId, prospect.source().disk().name(), destinationId,
            destination);
        return queue.add(NewRun.of(Run.Kind.CAPTURE, about, name).encrypted(!storage.passphrase().isNone()),
            CaptureOrder.of(storage, "", then), storage.passphrase(), who, () -> {});
    }

    /** The queue refuses a second one of the same disk; here it is told before the disk is sampled. */
    private void requireFree(String diskId, String destinationId, String name) {
        if (images.exists(destinationId, name)) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name",
                "There is an image named " + name + " on that destination already. Choose another name.");
        }
        queue.requireOnce(NewRun.of(Run.Kind.CAPTURE, new NewRun.About("", diskId, "", destinationId, ""), name));
    }

    /** A plan's image of a night, which starts at its time. */
    public record Planned(UUID planId, String computer, String diskId, String disk, String destinationId, String destination,
        Storage storage, boolean encrypted, String naming, Then then, Instant startsAt) {
    }

    /**
     * Puts a night's images into the queue, in place of what waited for that night before; what is being made of it goes on.
     *
     * @return how many wait now
     */
    public synchronized int queueNight(LocalDate night, List<Planned> rows, String who) {
        queue.waiting().stream().filter(run -> night.equals(run.night()))
            .forEach(run -> queue.takeOut(run.id(), "The night was started again."));
        Set<UUID> underWay = queue.open().stream().filter(run -> run.state() == Run.State.RUNNING && night.equals(run.night()))
            .map(Run::planId).collect(Collectors.toSet());
        List<Planned> asked = rows.stream().filter(row -> !underWay.contains(row.planId)).toList();
        asked.forEach(row -> queuePlanned(night, row, who));
        return asked.size();
    }

    /** Puts one image of a night into the queue, unless that plan had one in that night already. */
    public synchronized boolean queueOnce(LocalDate night, Planned row, String who) {
        if (records.ofNight(night).stream().anyMatch(run -> row.planId.equals(run.planId()))) {
            return false;
        }
        queuePlanned(night, row, who);
        return true;
    }

    /** A plan's image by itself, outside any night; all that the plan says holds for it. */
    synchronized Run queueNow(Planned row, String who) {
        NewRun.About about = new NewRun.About(row.computer, row.diskId, row.disk, row.destinationId, row.destination);
        NewRun run = NewRun.of(Run.Kind.CAPTURE, about, row.computer + " " + row.disk).encrypted(row.encrypted)
            .inNight(null, row.planId, null);
        return queue.add(run, CaptureOrder.of(row.storage, row.naming, row.then), row.storage.passphrase(), who, () -> {});
    }

    private void queuePlanned(LocalDate night, Planned row, String who) {
        NewRun.About about = new NewRun.About(row.computer, row.diskId, row.disk, row.destinationId, row.destination);
        NewRun run = NewRun.of(Run.Kind.CAPTURE, about, row.computer + " " + row.disk).encrypted(row.encrypted)
            .inNight(night, row.planId, row.startsAt);
        queue.add(run, CaptureOrder.of(row.storage, row.naming, row.then), row.storage.passphrase(), who, () -> {});
    }

    /** Disks whose capture is under way or waits. */
    public Set<String> disks() {
        return queue.open().stream().filter(run -> run.kind() == Run.Kind.CAPTURE).map(Run::diskId).collect(Collectors.toSet());
    }

    /** The plans whose image of a night is under way or waits. */
    public Set<UUID> plansOf(LocalDate night) {
        return queue.open().stream().filter(run -> night.equals(run.night()) && run.planId() != null).map(Run::planId)
            .collect(Collectors.toSet());
    }

    /** Carries an unfinished capture on, from its own disk. */
    Run beginCarryOn(String destinationId, String name, Passphrase passphrase, String who) throws IOException {
        HostUnfinished left = unfinished(destinationId, name);
        if (!left.carryable()) {
            throw new Refused(HttpStatus.CONFLICT, "not-carryable", "",
                "The unfinished capture " + name + " cannot be carried on. Discard it, and start again.");
        }
        DisksOnRecord.DiskOnRecord disk = disks.all().stream().filter(d -> d.identity().same(left.disk())).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "unknown-disk", "",
                name + " was read of " + left.disk().model() + " " + left.disk().serial()
                    + ", which is not in this office. Attach that disk, or discard what was written."));
        if (left.encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase",
                name + " is encrypted. Enter the passphrase it was begun with.");
        }
        requireFree(disk.id(), destinationId, name);
        Optional<Run> before = records.last(Run.Kind.CAPTURE, destinationId, name);
        NewRun.About about = new NewRun.About(disk.computer(), disk.id(), disk.name(), destinationId,
            images.destinationName(destinationId));
        NewRun run = NewRun.of(Run.Kind.CAPTURE, about, name).encrypted(left.encrypted());
        return queue.add(before.map(Run::planId).map(plan -> run.inNight(null, plan, null)).orElse(run), carryingOn(before), passphrase,
            who, () -> {});
    }

    private CaptureOrder carryingOn(Optional<Run> before) {
        Optional<CaptureOrder> order = before.flatMap(queue::order).filter(CaptureOrder.class::isInstance).map(CaptureOrder.class::cast);
        return CaptureOrder.carryingOn(order.map(CaptureOrder::folder).orElse(""), before.map(mail::of).orElse(List.of()));
    }

    /** Whether no run is at work on that unfinished capture. */
    boolean isIdle(String destinationId, String name) {
        return queue.underWay().stream().map(LiveRun::run)
            .noneMatch(run -> run.destinationId().equals(destinationId) && run.imageName().equals(name));
    }

    /** What the last run of it said; an empty string when none is known. */
    String whyEnded(String destinationId, String name) {
        return records.last(Run.Kind.CAPTURE, destinationId, name).map(Run::outcome).orElse("");
    }

    private HostUnfinished unfinished(String destinationId, String name) throws IOException {
        return store.unfinished(destinationId).stream().filter(each -> each.name().equals(name)).findFirst()
            .orElseThrow(() -> Refused.notFound("unfinished capture"));
    }

    void discard(String destinationId, String name, String who) throws IOException {
        HostUnfinished left = unfinished(destinationId, name);
        if (!isIdle(destinationId, name)) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "", name + " is under way. Stop it first.");
        }
        store.discard(destinationId, name);
        journal.add(who, "discard", left.carryable() ? left.disk().model() + " " + left.disk().serial() : name, Journal.Result.DONE,
            (left.carryable() ? "The unfinished capture " : "What was left of ") + name
                + " on " + images.destinationName(destinationId) + " was discarded; " + Sizes.decimal(left.storedBytes())
                + " are free again.");
    }
}
