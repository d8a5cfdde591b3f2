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
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Takes orders for writing images and disks onto other disks. */
@Service
public class Restorations {
    /** Stands in a restore's name between the disk and its target. */
    private static final String ONTO = " onto ";

    private final Devices devices;
    private final Overwriting overwriting;
    private final Targets targets;
    private final Images images;
    private final ComputersOnRecord computers;
    private final RestorationRepository repository;
    private final RestorationRecords records;
    private final Sources sources;
    private final RunQueue queue;
    private final Journal journal;
    private final ObjectMapper json;
    private final Clock clock;

    Restorations(Devices devices, Overwriting overwriting, Targets targets, Images images, ComputersOnRecord computers,
        RestorationRepository repository, RestorationRecords records, Sources sources, RunQueue queue, Journal journal, ObjectMapper json,
        Clock clock) {
        this.devices = devices;
        this.overwriting = overwriting;
        this.targets = targets;
        this.images = images;
        this.computers = computers;
        this.repository = repository;
        this.records = records;
        this.sources = sources;
        this.queue = queue;
        this.journal = journal;
        this.json = json;
        this.clock = clock;
    }

    long badBytes(UUID imageId) {
        return images.badBytesOf(imageId);
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

    /**
     * Begins, or waits until the drive is free.
     *
     * @param servedId of a virtual computer whose disk it is; null for an image or a disk
     */
    UUID begin(Restoration.Kind kind, UUID servedId, Sources.Source source, String targetId, String typed, String forComputer,
        RestoreChoice choice,
        Optional<UUID> rollout, Passphrase passphrase, String who) throws IOException {
        if (choice.refreshes() != null) {
            records.requireRefreshable(choice.refreshes(), source.diskId(), targets.one(targetId).identity());
        }
        Overwriting.Confirmed confirmed = targets.confirmed(targetId, typed, source.serials(), choice.replaced());
        String computer = forComputer.isBlank() ? source.computer() : forComputer.strip();
        RestoreLayout layout = layout(source, targetId, firmware(computer), choice);
        if (!layout.fits()) {
            throw new Refused(HttpStatus.CONFLICT, layout.refusals().get(0).kind().word(), "targetId", layout.refusals().get(0).sentence());
        }
        scratch(targetId, layout);
        if (source.from() instanceof Overwriting.From.Disk) {
            String use = devices.inUse(source.diskId());
            if (!use.isEmpty()) {
                throw new Refused(HttpStatus.CONFLICT, "in-use", "diskId", OverwriteRules.inUse(source.imageName(), use));
            }
        }
        TargetDisk target = targets.one(targetId);
        Restoration asked = new Restoration(kind, source.imageName(), source.imageId().orElse(null), source.madeAt(), source.diskId(),
            source.computer(), source.disk(), clock.instant(), who)
            .of(servedId).onto(confirmed, target.name(), computer, firmware(computer), written(choice), rollout.orElse(null));
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
        RestoreOrder order = new RestoreOrder(asked.id(), asked.servedId(), source.imageId().orElse(null), source.diskId(), asked.target(),
            asked.targetName(), asked.firmware(), read(asked.choice()), asked.tries() > 1);
        queue.add(source.imageId().map(run::ofCopy).orElse(run), order, passphrase, who, accepted);
    }

    /** Once more, from where it broke off. */
    void carryOn(UUID id, String typed, Passphrase passphrase, String who) throws IOException {
        Restoration asked = records.one(id);
        if (asked.state() != Restoration.State.FAILED) {
            throw new Refused(HttpStatus.CONFLICT, "not-failed", "", "It did not fail, so there is nothing to carry on.");
        }
        Sources.Source source = sources.of(asked.servedId(), asked.imageId(), asked.diskId(),
            read(asked.choice()).allSectors(), passphrase);
        Overwriting.Confirmed now = targets.confirmed(asked.target().targetId(), typed, source.serials(),
            read(asked.choice()).replaced());
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


    /** One computer of a rollout. */
    public UUID rollOut(UUID rolloutId, UUID imageId, String targetId, String typed, String computer, String strategy,
        Passphrase passphrase, String who) throws IOException {
        return begin(Restoration.Kind.ROLLOUT, null, sources.image(imageId, passphrase), targetId, typed, computer,
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
