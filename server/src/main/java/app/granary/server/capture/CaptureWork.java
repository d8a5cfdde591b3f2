package app.granary.server.capture;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationRules;
import app.granary.core.estimate.TimeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.core.plan.FolderPattern;
import app.granary.core.plan.NamingPattern;
import app.granary.core.plan.Plan;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.HostUnfinished;
import app.granary.engine.host.Storage;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Imaging;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.destination.Promises;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.image.Moves;
import app.granary.server.journal.Journal;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import app.granary.server.queue.Work;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Makes an image of a disk, or carries one on that did not come to its end. */
@Component
public class CaptureWork implements Work<CaptureOrder> {
    private final ImageStore store;
    private final Imaging imaging;
    private final OfficeClaims claims;
    private final Preflights preflights;
    private final Prospects prospects;
    private final Promises promises;
    private final ImageRecords imageRecords;
    private final Plans plans;
    private final Folders folders;
    private final Moves moves;
    private final PlanWaits planWaits;
    private final CaptureTimes times;
    private final Journal journal;

    public CaptureWork(ImageStore store, Imaging imaging, OfficeClaims claims, Preflights preflights, Prospects prospects,
        Promises promises, ImageRecords imageRecords,
        Plans plans, Folders folders, Moves moves, PlanWaits planWaits, CaptureTimes times, Journal journal) {
        this.planWaits = planWaits;
        this.store = store;
        this.imaging = imaging;
        this.claims = claims;
        this.preflights = preflights;
        this.prospects = prospects;
        this.promises = promises;
        this.imageRecords = imageRecords;
        this.plans = plans;
        this.folders = folders;
        this.moves = moves;
        this.times = times;
        this.journal = journal;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.CAPTURE;
    }

    @Override
    public Class<CaptureOrder> orderType() {
        return CaptureOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, CaptureOrder order) {
        List<DeviceClaim> out = new ArrayList<>(claims.reading(run.diskId(), run.subject()));
        out.addAll(claims.storing(run.destinationId(), run.destination()));
        return out;
    }

    @Override
    public String machine(Run run, CaptureOrder order) {
        return claims.machineOfDisk(run.diskId());
    }

    @Override
    public boolean staysThere(Run run, CaptureOrder order) {
        return machine(run, order).equals(claims.machineOfDestination(run.destinationId()));
    }

    @Override
    public String notYet(Run run, CaptureOrder order) {
        return planWaits.of(run);
    }

    @Override
    public String name(Run run, CaptureOrder order, Instant now) {
        return order.naming().isEmpty() ? run.imageName() : new NamingPattern(order.naming()).name(run.computer(), run.disk(), now);
    }

    @Override
    public boolean same(Run asked, Run other) {
        return asked.diskId().equals(other.diskId());
    }

    @Override
    public String twice() {
        return "This disk is being captured already, or waits to be. Watch that run, or stop it first.";
    }

    @Override
    public String perform(LiveRun running, CaptureOrder order, Passphrase passphrase) throws IOException {
        return running.again() ? heardOf(running, order) : order.carryOn() ? carryOn(running, order, passphrase)
            : capture(running, order, order.storage().with(passphrase));
    }

    /** It was begun, and went on while Granary was away: what it came to is asked for, and of the disk only what it weighs. */
    private String heardOf(LiveRun running, CaptureOrder order) throws IOException {
        Run run = running.run();
        Storage storage = order.carryOn() ? left(run).storage() : order.storage();
        Prospect prospect = prospects.of(run.diskId(), storage, run.encrypted());
        promise(running, prospect.size().highBytes());
        ImageAt at = new ImageAt(run.destinationId(), run.imageName(), Passphrase.NONE);
        HostImage made = order.carryOn() ? imaging.carryOn(run.diskId(), at, running)
            : imaging.capture(run.diskId(), run.destinationId(), run.imageName(), storage, running);
        return recorded(running, prospect, made, order);
    }

    private String capture(LiveRun running, CaptureOrder order, Storage storage) throws IOException {
        Run run = running.run();
        Prospect prospect = preflights.look(run.diskId(), run.destinationId(), storage, Preflights.Moment.STARTING);
        estimated(running, prospect);
        promise(running, prospect.size().highBytes());
        begun(run, prospect);
        HostImage made = imaging.capture(run.diskId(), run.destinationId(), run.imageName(), storage, running);
        return recorded(running, prospect, made, order);
    }

    /** Its room is spoken for, less what it has written. */
    private void promise(LiveRun running, long high) {
        Run run = running.run();
        promises.promise(run.id(), run.destinationId(), run.diskId(), high, high);
        running.whileWriting(stored -> promises.promise(run.id(), run.destinationId(), run.diskId(), high, high - stored));
    }

    void begun(Run run, Prospect prospect) {
        journal.add(run.begunBy(), "capture", run.subject(), Journal.Result.BEGUN,
            "Capture of " + prospect.source().label() + " (serial " + prospect.source().disk().identity().serial()
                + ") to " + run.destination() + " begun as " + run.imageName() + ", about " + Sizes.decimal(run.likelyBytes()) + ".");
    }

    void estimated(LiveRun running, Prospect prospect) {
        Run run = running.run();
        Destination to = prospect.to(run.destinationId()).destination();
        TimeEstimate time = prospect.timeTo(to);
        running.expect(new NewRun.Expected(prospect.size().likelyBytes(), time.lowSeconds(), time.highSeconds()));
        times.estimated(run.id(), prospect, to);
    }

    /** Its room was taken when it was begun; what is still to come is what the estimate says beyond what lies there. */
    private String carryOn(LiveRun running, CaptureOrder order, Passphrase passphrase) throws IOException {
        Run run = running.run();
        HostUnfinished left = left(run);
        journal.add(run.begunBy(), "capture", run.subject(), Journal.Result.BEGUN,
            "Capture " + run.imageName() + " to " + run.destination() + " is carried on from "
                + Math.round(left.doneShare() * 100) + " %.");
        Prospect prospect = prospects.of(run.diskId(), left.storage(), left.encrypted());
        estimated(running, prospect);
        promises.promise(run.id(), run.destinationId(), run.diskId(), prospect.size().highBytes(),
            prospect.size().highBytes() - left.storedBytes());
        return recorded(running, prospect,
            imaging.carryOn(run.diskId(), new ImageAt(run.destinationId(), run.imageName(), passphrase), running), order);
    }

    private HostUnfinished left(Run run) throws IOException {
        return store.unfinished(run.destinationId()).stream().filter(each -> each.name().equals(run.imageName())).findFirst()
            .orElseThrow(() -> Refused.notFound("unfinished capture"));
    }

    String recorded(LiveRun running, Prospect prospect, HostImage made, CaptureOrder order) throws IOException {
        Run run = running.run();
        UUID image = imageRecords.record(prospect.wanted(), run.destinationId(), run.destination(), run.imageName(), made, run.encrypted(),
            recheckDays(run), run.begunBy());
        running.made(image, made.storedBytes());
        long bad = made.badSectors().stream().mapToLong(each -> each.sizeBytes()).sum();
        return "Image " + run.imageName() + " made on " + run.destination() + ": " + Sizes.decimal(made.storedBytes()) + " stored of "
            + Sizes.decimal(made.usedBytes())
            + " read, estimated " + Sizes.decimal(prospect.size().likelyBytes())
            + ". Read back: every digest matches and every frame decodes."
            + (bad == 0 ? "" : " " + Sizes.decimal(bad) + " of the disk could not be read, in " + made.badSectors().size()
                + " places, and are zeros in the image; replace the disk soon.")
            + (prospect.to(run.destinationId()).rollBack() ? " " + DestinationRules.ROLL_BACK : "")
            + moves.lay(image, folders.of(folderOf(run, order), run.diskId()));
    }

    /** One that is carried on lies where its plan says now; without a plan, where it was to lie when it was begun. */
    private FolderPattern folderOf(Run run, CaptureOrder order) throws IOException {
        Optional<FolderPattern> planned = order.carryOn() ? plan(run).map(Plan::folder) : Optional.empty();
        return planned.isPresent() ? planned.get() : order.folders();
    }

    private Optional<Plan> plan(Run run) {
        return plans.all().stream().filter(saved -> saved.id().equals(run.planId())).findFirst().map(Plans.Saved::plan);
    }

    /** What its plan says; a quarter of a year for one made by hand. */
    private int recheckDays(Run run) {
        return plan(run).map(Plan::recheckDays).orElse(Images.USUAL_RECHECK_DAYS);
    }

    @Override
    public String left(Run run, Fault fault) {
        return fault.kind() == Fault.Kind.STOPPED && isCarryable(run)
            ? " What was written stays on " + run.destination() + " as an unfinished capture; carry it on, or discard it." : "";
    }

    private boolean isCarryable(Run run) {
        try {
            return store.unfinished(run.destinationId()).stream().anyMatch(each -> each.carryable() && each.name().equals(run.imageName()));
        } catch (IOException gone) {
            return false;
        }
    }

    @Override
    public String interrupted(Run run) {
        if (isCarryable(run)) {
            return "What was written is kept on " + run.destination() + "; carry it on, or discard it.";
        }
        try {
            if (imageRecords.takeOn(run.destinationId(), run.destination(), run.imageName(), run.diskId(), run.computer(), run.disk(),
                run.begunBy())) {
                return "Its image had just been given its name, and is on the shelf; check it.";
            }
        } catch (IOException notThere) {
            // the drive is not attached: what lies on it shows when it is
        }
        return "No image was named; what was written shows when " + run.destination()
            + " is attached. Start it again, or carry it on then.";
    }

    @Override
    public void ended(Run run, Took took) {
        if (run.state() == Run.State.DONE && !took.equals(Took.NOTHING)) {
            times.took(run.id(), took);
        }
    }
}
