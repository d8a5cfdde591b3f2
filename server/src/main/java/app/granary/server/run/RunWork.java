package app.granary.server.run;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Destination;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.core.plan.NamingPattern;
import app.granary.core.preflight.Preflight;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.ProofLevel;
import app.granary.core.target.Overwriting;
import app.granary.engine.copy.Repair;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.site.ImageAt;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.SiteUnfinished;
import app.granary.engine.site.Storage;
import app.granary.server.destination.Promises;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.Images;
import app.granary.server.image.RoomMaker;
import app.granary.server.journal.Journal;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Consumer;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Does what a run was asked to do, and says in a sentence how it went. */
@Component
class RunWork {
    private final Site site;
    private final Prospects prospects;
    private final Promises promises;
    private final Images images;
    private final Elsewhere elsewhere;
    private final Plans plans;
    private final RoomMaker roomMaker;
    private final Journal journal;
    private final ObjectMapper json;
    private final List<OtherWork> others;
    private final Clock clock;

    RunWork(Site site, Prospects prospects, Promises promises, Images images, Elsewhere elsewhere, Plans plans, RoomMaker roomMaker, Journal journal, ObjectMapper json, List<OtherWork> others, Clock clock) {
        this.site = site;
        this.prospects = prospects;
        this.promises = promises;
        this.images = images;
        this.elsewhere = elsewhere;
        this.plans = plans;
        this.roomMaker = roomMaker;
        this.journal = journal;
        this.json = json;
        this.others = others;
        this.clock = clock;
    }

    String written(RunOrder order) {
        try {
            return json.writeValueAsString(order);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    RunOrder order(Run run) {
        try {
            return json.readValue(run.document(), RunOrder.class);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /** Marks it as begun, with its name if that is made only now, and its serial for the screen. */
    LiveRun prepare(Run run, Consumer<LiveRun> changed) {
        String naming = others(run) ? "" : order(run).naming();
        String name = naming.isEmpty() ? run.imageName() : new NamingPattern(naming).name(run.computer(), run.disk(), clock.instant());
        run.begin(name, clock.instant());
        return new LiveRun(run, serial(run), changed);
    }

    private String serial(Run run) {
        try {
            return prospects.source(run.diskId()).disk().identity().serial();
        } catch (IOException | Refused notAttached) {
            return "";
        }
    }

    private OtherWork other(Run run) {
        return others.stream().filter(each -> each.kinds().stream().anyMatch(kind -> kind.run() == run.kind())).findFirst().orElseThrow();
    }

    private boolean others(Run run) {
        return others.stream().anyMatch(each -> each.kinds().stream().anyMatch(kind -> kind.run() == run.kind()));
    }

    /** What one of the other kinds touches. */
    List<DeviceClaim> claims(Run run) {
        return other(run).claims(run.id());
    }

    /** Tells who ordered it how it ended. */
    void tell(Run run) {
        if (others(run)) {
            other(run).ended(run.id(), run.state() == Run.State.DONE, run.outcome());
        }
    }

    /** When the preflight is made. */
    enum Moment {
        /** Asked for; it may still wait long, be stopped or be refused, so nothing is given up for it. */
        ASKED,
        /** It begins now. */
        STARTING
    }

    /**
     * Everything is looked at when it is asked for and once more at the moment of starting, and refused with the reason. Only what starts,
     * and is short of nothing but
     * room, has the trash emptied for it, and only by what it is short of: what lies there cannot be had back.
     */
    Prospect preflight(String diskId, String destinationId, Storage storage, Moment moment) throws IOException {
        // samples are kept for a while, and a passphrase is not
        Prospect prospect = prospects.fresh(diskId, storage.with(Passphrase.NONE), !storage.passphrase().isNone());
        requireMachine(prospect.to(destinationId).destination(), prospect);
        requireIdle(prospect);
        List<RuleOutcome> broken = broken(prospect, destinationId);
        if (broken.size() == 1 && broken.get(0).rule().equals("room")) {
            long shortBytes = broken.get(0).askedBytes() - broken.get(0).allowedBytes();
            if (moment == Moment.ASKED && roomMaker.trashBytes(destinationId) >= shortBytes) {
                return prospect;
            }
            if (moment == Moment.STARTING && roomMaker.makeRoom(destinationId, shortBytes) > 0) {
                prospect = prospects.fresh(diskId, storage.with(Passphrase.NONE), !storage.passphrase().isNone());
                broken = broken(prospect, destinationId);
            }
        }
        if (!broken.isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "unfit-" + broken.get(0).rule(), "destinationId", broken.get(0).sentence());
        }
        return prospect;
    }

    private static List<RuleOutcome> broken(Prospect prospect, String destinationId) {
        return prospect.to(destinationId).rules().stream().filter(rule -> !rule.holds()).toList();
    }

    private void requireMachine(Destination destination, Prospect prospect) throws IOException {
        Optional<String> why = Preflight.power(site.power(), prospect.timeTo(destination).highSeconds())
            .or(() -> journal.newest().flatMap(newest -> Preflight.clock(clock.instant(), newest, clock.getZone())));
        if (why.isPresent()) {
            throw new Refused(HttpStatus.CONFLICT, "not-ready", "", why.get());
        }
    }

    /** Told when it is asked for, and not an hour later when its turn has come. */
    private void requireIdle(Prospect prospect) throws IOException {
        String use = site.inUse(prospect.source().disk().id());
        if (!use.isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "in-use", "diskId", Overwriting.inUse(prospect.source().label(), use));
        }
    }

    /** For what is written without an estimate: room for it, with the reserve kept, and the drive there. */
    void requireRoom(String destinationId, long bytes) throws IOException {
        Destination to = site.destinations().stream().filter(d -> d.id().equals(destinationId) && d.attached()).findFirst().orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "unfit-attached",
            "toDestinationId", "That destination is not attached. Attach it, or choose another."));
        long room = to.freeBytes() - promises.promisedBytes(destinationId, "") - to.reserveBytes();
        if (room < bytes) {
            throw new Refused(HttpStatus.CONFLICT, "unfit-room", "toDestinationId", to.name() + " has " + Sizes.decimal(Math.max(0, room)) + " to give beyond its reserve and what is promised, and the copy needs "
                + Sizes.decimal(bytes) + ". Choose another destination, or make room.");
        }
    }

    String perform(LiveRun running, Passphrase passphrase) throws IOException {
        Run run = running.run();
        return switch (run.kind()) {
            case CAPTURE -> order(run).carryOn() ? carryOn(running, passphrase) : capture(running, passphrase);
            case RESTORE, SPARE, STICK, PREPARE, REHEARSAL -> other(run).perform(run.id(), passphrase, running);
            case CHECK -> check(running, passphrase);
            case COPY -> copy(running);
            case REPAIR -> repair(running, passphrase);
        };
    }

    private String capture(LiveRun running, Passphrase passphrase) throws IOException {
        Run run = running.run();
        Storage storage = order(run).storage().with(passphrase);
        Prospect prospect = preflight(run.diskId(), run.destinationId(), storage, Moment.STARTING);
        run.think(prospect, prospect.to(run.destinationId()).destination());
        long high = prospect.size().highBytes();
        promises.promise(run.id(), run.destinationId(), run.diskId(), high, high);
        running.whileWriting(stored -> promises.promise(run.id(), run.destinationId(), run.diskId(), high, high - stored));
        journal.add(run.begunBy(), "capture", run.subject(), Journal.Result.BEGUN, "Capture of " + prospect.source().label() + " (serial " + prospect.source().disk().identity().serial()
            + ") to " + run.destination() + " begun as " + run.imageName() + ", about " + Sizes.decimal(run.likelyBytes()) + ".");
        SiteImage made = site.capture(run.diskId(), run.destinationId(), run.imageName(), storage, running);
        return recorded(run, prospect, made);
    }

    /** Its room was taken when it was begun; what is still to come is what the estimate says beyond what lies there. */
    private String carryOn(LiveRun running, Passphrase passphrase) throws IOException {
        Run run = running.run();
        SiteUnfinished left = site.unfinished(run.destinationId()).stream().filter(each -> each.name().equals(run.imageName())).findFirst().orElseThrow(() -> Refused.notFound("unfinished capture"));
        journal.add(run.begunBy(), "capture", run.subject(), Journal.Result.BEGUN, "Capture " + run.imageName() + " to " + run.destination() + " is carried on from "
            + Math.round(left.doneShare() * 100) + " %.");
        Prospect prospect = prospects.fresh(run.diskId(), left.storage(), left.encrypted());
        run.think(prospect, prospect.to(run.destinationId()).destination());
        promises.promise(run.id(), run.destinationId(), run.diskId(), prospect.size().highBytes(), prospect.size().highBytes() - left.storedBytes());
        return recorded(run, prospect, site.carryOn(run.diskId(), new ImageAt(run.destinationId(), run.imageName(), passphrase), running));
    }

    String recorded(Run run, Prospect prospect, SiteImage made) throws IOException {
        UUID image = images.record(prospect.wanted(), run.destinationId(), run.destination(), run.imageName(), made, run.encrypted(), recheckDays(run), run.begunBy());
        run.made(image, made.storedBytes());
        long bad = made.badSectors().stream().mapToLong(each -> each.sizeBytes()).sum();
        return "Image " + run.imageName() + " made on " + run.destination() + ": " + Sizes.decimal(made.storedBytes()) + " stored of " + Sizes.decimal(made.usedBytes())
            + " read, estimated " + Sizes.decimal(prospect.size().likelyBytes()) + ". Read back: every digest matches and every frame decodes."
            + (bad == 0 ? "" : " " + Sizes.decimal(bad) + " of the disk could not be read, in " + made.badSectors().size() + " places, and are zeros in the image; replace the disk soon.");
    }

    /** What its plan says; a quarter of a year for one made by hand. */
    private int recheckDays(Run run) {
        return plans.all().stream().filter(saved -> saved.id().equals(run.planId())).findFirst().map(saved -> saved.plan().recheckDays()).orElse(Images.USUAL_RECHECK_DAYS);
    }

    private String check(LiveRun running, Passphrase passphrase) throws IOException {
        Run run = running.run();
        ProofLevel level = order(run).proofLevel();
        long began = System.nanoTime();
        Optional<ElsewhereImage> other = elsewhere.expected(run.imageId());
        if (other.isPresent()) {
            return checkElsewhere(running, other.get(), level);
        }
        CheckOutcome outcome = site.check(images.at(run.imageId(), passphrase), level, running);
        images.recordCheck(run.imageId(), outcome, (System.nanoTime() - began) / 1e9, run.begunBy());
        requireOk(run, outcome);
        return "Image " + run.imageName() + " on " + run.destination() + " is " + meaning(level) + ".";
    }

    private String checkElsewhere(LiveRun running, ElsewhereImage image, ProofLevel level) throws IOException {
        Run run = running.run();
        long began = System.nanoTime();
        ElsewhereCheck.Result result = site.check(run.destinationId(), image, level, running);
        images.recordCheck(run.imageId(), result.outcome(), (System.nanoTime() - began) / 1e9, run.begunBy(), result.note());
        elsewhere.learn(run.imageId(), result);
        requireOk(run, result.outcome());
        String unpacked = result.contentBytes().isPresent() ? " It unpacks to " + Sizes.decimal(result.contentBytes().getAsLong()) + "." : "";
        return "Image " + run.imageName() + " on " + run.destination() + " is " + meaningElsewhere(result.outcome().level(), image) + "." + unpacked + (result.note().isEmpty() ? "" : " " + result.note());
    }

    private static String meaningElsewhere(ProofLevel level, ElsewhereImage image) {
        return switch (level) {
            case COMPLETE -> "complete: all its files are there and have the length they had";
            case SOUND -> "sound: every byte of it matches its digest";
            default -> "readable: all of it unpacks" + (image.inside().scheme().equals("none") ? "" : ", and the partition table in it is the one it was added with");
        };
    }

    private static String meaning(ProofLevel level) {
        return switch (level) {
            case COMPLETE -> "complete: all parts are there and have the right length";
            case SOUND -> "sound: every stored byte matches its digest";
            case READABLE -> "sound and readable: every digest matches and every frame decodes";
            case REHEARSED -> "rehearsed: it was restored to a scratch file, which is what was read of the disk";
            case BOOTED -> "booted";
        };
    }

    private static void requireOk(Run run, CheckOutcome outcome) throws IOException {
        if (!outcome.ok()) {
            long files = outcome.lost().stream().map(LostFiles::hit).mapToLong(hit -> hit.count()).sum();
            throw Fault.of(Fault.Kind.DAMAGED, run.imageName(), outcome.problems().get(0).message() + (files == 0 ? "" : " " + files + (files == 1 ? " file lies" : " files lie") + " on it."))
                .asException();
        }
    }

    private String copy(LiveRun running) throws IOException {
        Run run = running.run();
        String to = order(run).otherId();
        Images.Shelved image = images.shelved(run.imageId());
        promises.promise(run.id(), to, image.storedBytes());
        CheckOutcome outcome = site.copy(images.at(run.imageId(), Passphrase.NONE), to, running);
        String name = images.destinationName(to);
        UUID copy = images.recordCopy(run.imageId(), to, name, outcome, run.begunBy());
        run.made(copy, image.storedBytes());
        return "Image " + run.imageName() + " copied from " + run.destination() + " to " + name + ": every digest of the copy matches.";
    }

    private String repair(LiveRun running, Passphrase passphrase) throws IOException {
        Run run = running.run();
        RunOrder order = order(run);
        long began = System.nanoTime();
        Repair.Mended mended = site.mend(images.at(run.imageId(), passphrase), images.copyOn(run.imageId(), order.otherId()), order.proofLevel(), running);
        images.recordCheck(run.imageId(), mended.check(), (System.nanoTime() - began) / 1e9, run.begunBy());
        requireOk(run, mended.check());
        return "Image " + run.imageName() + " on " + run.destination() + " was mended from " + images.destinationName(order.otherId()) + ": " + Sizes.decimal(mended.writtenBytes())
            + " written, and it is " + meaning(order.proofLevel()) + " again.";
    }

    /** What a capture that ended early left on its destination, as a sentence that follows the reason. */
    String whatIsLeft(Run run, Fault fault) {
        if (run.kind() != Run.Kind.CAPTURE) {
            return "";
        }
        try {
            boolean left = site.unfinished(run.destinationId()).stream().anyMatch(each -> each.carryable() && each.name().equals(run.imageName()));
            return left && fault.kind() == Fault.Kind.STOPPED ? " What was written stays on " + run.destination() + " as an unfinished capture; carry it on, or discard it."
                : "";
        } catch (IOException gone) {
            return "";
        }
    }
}
