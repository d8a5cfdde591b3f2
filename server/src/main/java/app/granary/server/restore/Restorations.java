package app.granary.server.restore;

import app.granary.core.inventory.Firmware;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.restore.RestoreTime;
import app.granary.core.target.OverwriteRules;
import app.granary.core.target.TargetDisk;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Devices;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.target.Targets;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Takes orders for writing images and disks onto other disks, does them, and keeps what a person signed. */
@Service
public class Restorations {
    /** Stands in a restore's name between the disk and its target. */
    private static final String ONTO = " onto ";

    private final Devices devices;
    private final Overwriting overwriting;
    private final Targets targets;
    private final Images images;
    private final ImageRecords imageRecords;
    private final ComputersOnRecord computers;
    private final RestorationRepository repository;
    private final Sources sources;
    private final RunQueue queue;
    private final Journal journal;
    private final ObjectMapper json;
    private final Clock clock;

    Restorations(Devices devices, Overwriting overwriting, Targets targets, Images images, ImageRecords imageRecords,
        ComputersOnRecord computers,
        RestorationRepository repository, Sources sources, RunQueue queue, Journal journal, ObjectMapper json,
        Clock clock) {
        this.devices = devices;
        this.overwriting = overwriting;
        this.targets = targets;
        this.images = images;
        this.imageRecords = imageRecords;
        this.computers = computers;
        this.repository = repository;
        this.sources = sources;
        this.queue = queue;
        this.journal = journal;
        this.json = json;
        this.clock = clock;
    }

    long badBytes(UUID imageId) {
        return images.badBytesOf(imageId);
    }

    /**
     * Something that was written and waits for a person.
     *
     * @param failed whether it did not come to its end
     */
    public record Unsigned(String forComputer, String imageName, String target, boolean failed, String outcome) {
    }

    /** Newest first. */
    public List<Unsigned> unsigned() {
        return newest().stream()
            .filter(each -> each.signedAt() == null && each.retiredAt() == null && each.state() != Restoration.State.ASKED)
            .map(each -> new Unsigned(each.forComputer(), each.imageName(), each.targetName(), each.state() == Restoration.State.FAILED,
                each.outcome()))
            .toList();
    }

    /** Unknown for a computer that is not on record. */
    Firmware firmware(String computer) {
        return computers.all().stream().filter(each -> each.name().equalsIgnoreCase(computer)).findFirst()
            .map(each -> each.facts().firmware()).orElse(Firmware.UNKNOWN);
    }

    RestoreLayout layout(Sources.Source source, String targetId, Firmware firmware, RestoreChoice choice) throws IOException {
        return overwriting.layout(source.from(), targetId, firmware, choice.layout());
    }

    /** Where file systems would be made smaller; empty where none is. */
    Optional<Overwriting.ScratchRoom> scratch(String targetId, RestoreLayout layout) throws IOException {
        return layout.shrinks() ? Optional.of(overwriting.scratch(targetId, layout.scratchBytes())) : Optional.empty();
    }

    /** Begins, or waits until the drive is free. */
    UUID begin(Restoration.Kind kind, Sources.Source source, String targetId, String typed, String forComputer, RestoreChoice choice,
        Optional<UUID> rollout, Passphrase passphrase, String who) throws IOException {
        Overwriting.Confirmed confirmed = targets.confirmed(targetId, typed, source.serials());
        String computer = forComputer.isBlank() ? source.computer() : forComputer.strip();
        RestoreLayout layout = layout(source, targetId, firmware(computer), choice);
        if (!layout.fits()) {
            throw new Refused(HttpStatus.CONFLICT, layout.refusals().get(0).kind().word(), "targetId", layout.refusals().get(0).sentence());
        }
        scratch(targetId, layout);
        if (source.imageId().isEmpty()) {
            String use = devices.inUse(source.diskId());
            if (!use.isEmpty()) {
                throw new Refused(HttpStatus.CONFLICT, "in-use", "diskId", OverwriteRules.inUse(source.imageName(), use));
            }
        }
        TargetDisk target = targets.one(targetId);
        Restoration asked = new Restoration(kind, source.imageName(), source.imageId().orElse(null), source.madeAt(), source.diskId(),
            source.computer(), source.disk(), clock.instant(), who)
            .onto(confirmed, target.name(), computer, firmware(computer), written(choice), rollout.orElse(null));
        order(asked, source, target, layout.scratchBytes(), passphrase, who, () -> {
            repository.save(asked);
            journal.add(who, word(kind), computer, Journal.Result.BEGUN,
                who + " confirmed " + (layout.othersStay() ? labels(layout) + " of " : "") + target.inFull() + " to be overwritten with "
                    + (layout.othersStay() ? "the same of " : "") + source.imageName() + ". It held: "
                    + String.join("; ", confirmed.holds()) + ".",
                Journal.Facts.of(List.of(target.identity().serial()), Map.of(), "/restore"));
        });
        return asked.id();
    }

    private static String labels(RestoreLayout layout) {
        return layout.placed().stream().map(each -> each.to().label()).collect(java.util.stream.Collectors.joining(", "));
    }

    private void order(Restoration asked, Sources.Source source, TargetDisk target, long scratchBytes, Passphrase passphrase, String who,
        Runnable accepted) {
        RestoreTime time = RestoreTime.of(new RestoreTime.Bytes(source.bytes(), source.usedBytes(), scratchBytes),
            new RestoreTime.Rates(source.routeTo(target).slowed(source.rateBytes()), Math.max(1, target.writeRateBytes())));
        boolean spare = asked.kind() == Restoration.Kind.SPARE;
        NewRun.About about = new NewRun.About(asked.forComputer(), source.diskId(), asked.disk() + ONTO + target.name(),
            spare ? "target-" + target.id() : source.deviceId(), spare ? target.name() : source.device());
        NewRun run = NewRun.of(spare ? Run.Kind.SPARE : Run.Kind.RESTORE, about, asked.imageName()).as(asked.runId())
            .expecting(source.bytes(), time.lowSeconds(), time.highSeconds()).encrypted(source.encrypted());
        RestoreOrder order = new RestoreOrder(asked.id(), source.imageId().orElse(null), source.diskId(), asked.target(),
            asked.targetName(), asked.firmware(), read(asked.choice()), asked.tries() > 1);
        queue.add(source.imageId().map(run::ofCopy).orElse(run), order, passphrase, who, accepted);
    }

    /** Once more, from where it broke off. */
    void carryOn(UUID id, String typed, Passphrase passphrase, String who) throws IOException {
        Restoration asked = one(id);
        if (asked.state() != Restoration.State.FAILED) {
            throw new Refused(HttpStatus.CONFLICT, "not-failed", "", "It did not fail, so there is nothing to carry on.");
        }
        Sources.Source source = sources.of(asked.imageId(), asked.diskId(), passphrase);
        Overwriting.Confirmed now = targets.confirmed(asked.target().targetId(), typed, source.serials());
        if (!now.targetId().equals(asked.target().targetId()) || !now.identity().same(asked.target().identity())) {
            throw new Refused(HttpStatus.CONFLICT, "another-target", "confirmation",
                "Another disk is there now than the one that was begun with, serial " + asked.target().identity().serial()
                    + ". Put that one back, or begin anew.");
        }
        asked.again(now);
        RestoreLayout layout = layout(source, asked.target().targetId(), asked.firmware(), read(asked.choice()));
        order(asked, source, targets.one(asked.target().targetId()), layout.scratchBytes(), passphrase, who, () -> repository.save(asked));
    }

    private String written(RestoreChoice choice) {
        try {
            return json.writeValueAsString(choice);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    private RestoreChoice read(String choice) {
        try {
            return json.readValue(choice, RestoreChoice.class);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    private static String word(Restoration.Kind kind) {
        return kind.name().toLowerCase(java.util.Locale.ROOT);
    }

    Restoration one(UUID id) {
        return repository.findById(id).orElseThrow(() -> Refused.notFound("restore"));
    }

    List<Restoration> newest() {
        return repository.findTop100ByOrderByAskedAtDesc();
    }

    /** A person looked at it: the computer starts from it. Raises the image's proof to booted. */
    void sign(UUID id, List<String> looked, List<String> needed, String note, String who) {
        Restoration asked = one(id);
        if (asked.state() != Restoration.State.DONE) {
            throw new Refused(HttpStatus.CONFLICT, "not-done", "", "It has not come to its end, so there is nothing to sign yet.");
        }
        List<String> missing = needed.stream().filter(each -> !looked.contains(each)).toList();
        if (!missing.isEmpty()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "not-looked-at", "checks",
                "Not looked at yet: " + String.join("; ", missing) + ". Look, and tick it; if it fails, say so in a note and do not sign.");
        }
        asked.sign(looked, note.strip(), clock.instant(), who);
        repository.save(asked);
        if (asked.imageId() != null) {
            imageRecords.signBooted(asked.imageId(),
                "Restored onto " + asked.targetName() + " for " + asked.forComputer() + ": " + String.join("; ", looked) + ".", who);
        }
        String what = asked.kind() == Restoration.Kind.SPARE ? "The spare of " + asked.forComputer() + " made of " + asked.imageName()
            + ", " + asked.targetName() + ", is ready"
            : asked.forComputer() + " is back from " + asked.imageName() + " on "
                + asked.targetName();
        journal.add(who, "sign-off", asked.forComputer(), Journal.Result.DONE, what + ", looked at and signed by " + who + (note.isBlank()
            ? "." : ": " + note.strip()),
            Journal.Facts.of(List.of(asked.target().identity().serial()), Map.of(), "/restore"));
    }

    /** Where a spare lies. */
    void lieAt(UUID id, String place, String who) {
        Restoration spare = one(id);
        spare.lieAt(place.strip());
        repository.save(spare);
        journal.add(who, "place", spare.forComputer(), Journal.Result.NOTE,
            "The spare of " + spare.imageName() + ", serial " + spare.target().identity().serial() + ", lies " + place.strip() + ".");
    }

    void retire(UUID id, String who) {
        Restoration spare = one(id);
        spare.retire(clock.instant());
        repository.save(spare);
        String serial = spare.target().identity().serial();
        boolean wasSpare = spare.kind() == Restoration.Kind.SPARE && spare.state() == Restoration.State.DONE;
        journal.add(who, wasSpare ? "retire spare" : "take note", spare.forComputer(), Journal.Result.NOTE, wasSpare ? "The spare of "
            + spare.imageName() + ", serial " + serial + ", is a spare no more."
            : who + " took " + spare.imageName() + " onto " + spare.targetName() + " (serial " + serial + ") off the list; it "
                + (spare.state() == Restoration.State.DONE ? "was written, and nobody signed it." : "did not come to its end."));
    }

    /**
     * A disk that can be put in a dead computer's place.
     *
     * @param diskId of the disk it was copied of
     * @param booted whether a person started the computer from it
     * @param flaw   what it does not hold of its disk, as a clause; an empty string when it holds all of it
     */
    public record Spare(String diskId, String name, String serial, Instant madeAt, boolean booted, String place, String flaw) {
    }

    /** Newest first. */
    public List<Spare> spares() {
        return repository.findByKindAndStateAndRetiredAtIsNull(Restoration.Kind.SPARE, Restoration.State.DONE).stream()
            .sorted(java.util.Comparator.comparing(Restoration::askedAt).reversed())
            .map(each -> new Spare(each.diskId(), each.targetName(), each.target().identity().serial(), each.madeAt(),
                each.signedAt() != null, each.place(), each.flaw()))
            .toList();
    }

    /** One of a rollout's computers, as it stands. */
    public record Rolled(UUID id, String computer, String target, String state, String outcome, Instant signedAt, String signedBy) {
    }

    public List<Rolled> ofRollout(UUID rolloutId) {
        return repository.findByRolloutIdOrderByAskedAt(rolloutId).stream()
            .map(each -> new Rolled(each.id(), each.forComputer(), each.targetName(),
                each.state().name().toLowerCase(java.util.Locale.ROOT), each.outcome(),
                each.signedAt(), each.signedBy()))
            .toList();
    }

    /** One computer of a rollout. */
    public UUID rollOut(UUID rolloutId, UUID imageId, String targetId, String typed, String computer, String strategy,
        Passphrase passphrase, String who) throws IOException {
        return begin(Restoration.Kind.ROLLOUT, sources.image(imageId, passphrase), targetId, typed, computer,
            RestoreChoice.all(strategy), Optional.of(rolloutId), passphrase, who);
    }

    /** Whether an image would fit a target, and why not; for the list before a rollout. */
    public String fit(UUID imageId, String targetId, String strategy, Passphrase passphrase) throws IOException {
        Sources.Source source = sources.image(imageId, passphrase);
        List<String> refusals = targets.refusals(targets.one(targetId), source.serials());
        if (!refusals.isEmpty()) {
            return refusals.get(0);
        }
        RestoreLayout layout = layout(source, targetId, Firmware.UNKNOWN,
            RestoreChoice.all(strategy));
        return layout.fits() ? "" : layout.refusals().get(0).sentence();
    }
}
