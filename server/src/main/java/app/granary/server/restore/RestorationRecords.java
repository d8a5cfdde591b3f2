package app.granary.server.restore;

import app.granary.core.disk.DiskIdentity;
import app.granary.server.image.ImageRecords;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** What was written onto other disks, what a person signed of it, and the spares there are. */
@Service
public class RestorationRecords {
    private final RestorationRepository repository;
    private final ImageRecords imageRecords;
    private final Journal journal;
    private final Clock clock;

    RestorationRecords(RestorationRepository repository, ImageRecords imageRecords, Journal journal, Clock clock) {
        this.repository = repository;
        this.imageRecords = imageRecords;
        this.journal = journal;
        this.clock = clock;
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

    /** @throws Refused when a disk is not that spare, or it would not become a spare of the same disk again */
    void requireRefreshable(UUID id, String diskId, DiskIdentity target) {
        Restoration spare = one(id);
        if (spare.kind() != Restoration.Kind.SPARE || spare.state() != Restoration.State.DONE || spare.retiredAt() != null
            || !spare.diskId().equals(diskId) || !spare.target().identity().same(target)) {
            throw new Refused(HttpStatus.CONFLICT, "another-spare", "targetId",
                "That disk is not the spare that is to be refreshed, serial "
                + spare.target().identity().serial() + ", or not a spare of the same disk. Attach that spare, or make a new one.");
        }
    }

    /** From now on the old spare is none: it is written over, and what comes of it lies where it lay. */
    void replace(UUID oldSpare, UUID by) {
        Restoration old = one(oldSpare);
        if (old.retiredAt() == null) {
            old.retire(clock.instant());
            repository.save(old);
            Restoration fresh = one(by);
            fresh.lieAt(old.place());
            repository.save(fresh);
        }
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
}
