package app.granary.server.reconciliation;

import app.granary.core.reconciliation.Difference;
import app.granary.core.destination.Destination;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.host.ImageStore;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/**
 * Holds drives against the database, both ways: when Granary starts, when a drive is attached, and every few hours. A kill, a copy of the
 * database brought back and other hands let them part. What differs is told only when two looks in a row saw it, since work under way
 * changes one before the other.
 */
@Service
public class Reconciliation {
    private static final String BY = "Granary";
    /** So that a drive that sleeps may sleep. */
    private static final Duration AGAIN = Duration.ofHours(6);
    private static final Logger LOG = LoggerFactory.getLogger(Reconciliation.class);

    private final DriveLook look;
    private final ShellWork shell;
    private final ImageStore store;
    private final Images images;
    private final ImageRecords imageRecords;
    private final Journal journal;
    private final Clock clock;
    private final Map<String, Instant> looked = new HashMap<>();
    private final Map<String, DriveLook.Seen> seenOnce = new HashMap<>();
    private final Map<String, Told> told = new ConcurrentHashMap<>();

    Reconciliation(DriveLook look, ShellWork shell, ImageStore store, Images images, ImageRecords imageRecords, Journal journal,
        Clock clock) {
        this.look = look;
        this.shell = shell;
        this.store = store;
        this.images = images;
        this.imageRecords = imageRecords;
        this.journal = journal;
        this.clock = clock;
    }

    /** @param missing names of missing images */
    private record Told(String drive, Map<UUID, String> missing, Set<String> images, Set<String> trash) {
        Told without(Set<UUID> writtenOff) {
            Map<UUID, String> left = new HashMap<>(missing);
            left.keySet().removeAll(writtenOff);
            return new Told(drive, left, images, trash);
        }

        List<Difference> differences(String driveId) {
            List<Difference> out = new ArrayList<>();
            add(out, Difference.Kind.MISSING, driveId, missing.values());
            add(out, Difference.Kind.UNKNOWN_IMAGES, driveId, images);
            add(out, Difference.Kind.UNKNOWN_IN_TRASH, driveId, trash);
            return out;
        }

        private void add(List<Difference> out, Difference.Kind kind, String driveId, Collection<String> which) {
            if (!which.isEmpty()) {
                out.add(new Difference(kind, driveId, drive, which.stream().sorted().toList()));
            }
        }
    }

    /** In which attached drives and the database differ, as it was last seen. */
    public List<Difference> differences() {
        return told.entrySet().stream().sorted(Map.Entry.comparingByKey())
            .flatMap(each -> each.getValue().differences(each.getKey()).stream()).toList();
    }

    /** Images that are not on their drive. */
    public Set<UUID> missing() {
        return told.values().stream().flatMap(each -> each.missing.keySet().stream()).collect(Collectors.toSet());
    }

    /** The same on one drive. */
    public Set<UUID> missingOn(String driveId) {
        return told.containsKey(driveId) ? told.get(driveId).missing.keySet() : Set.of();
    }

    @Scheduled(initialDelayString = "${granary.reconciled-after:PT20S}", fixedDelayString = "PT30S")
    void tick() {
        try {
            lookWhereDue();
        } catch (IOException unreachable) {
            LOG.debug("drives cannot be told now", unreachable);
        }
    }

    synchronized void lookWhereDue() throws IOException {
        Instant now = clock.instant();
        Map<String, Destination> attached = attached();
        looked.keySet().retainAll(attached.keySet());
        seenOnce.keySet().retainAll(attached.keySet());
        told.keySet().retainAll(attached.keySet());
        attached.forEach((id, drive) -> {
            if (!looked.containsKey(id) || seenOnce.containsKey(id) || !looked.get(id).plus(AGAIN).isAfter(now)) {
                look(drive);
            }
        });
    }

    private Map<String, Destination> attached() throws IOException {
        return store.destinations().stream().filter(Destination::attached).collect(Collectors.toMap(Destination::id, each -> each));
    }

    private void look(Destination drive) {
        try {
            shell.takeOn(drive);
            DriveLook.Seen now = look.of(drive.id());
            DriveLook.Seen before = seenOnce.remove(drive.id());
            looked.put(drive.id(), clock.instant());
            if (before != null) {
                tell(drive, now.and(before));
            } else if (now.isNothing()) {
                told.remove(drive.id());
            } else {
                seenOnce.put(drive.id(), now);
            }
        } catch (IOException unreachable) {
            LOG.debug("{} was not looked at", drive.name(), unreachable);
        }
    }

    private void tell(Destination drive, DriveLook.Seen seen) {
        Map<UUID, String> names = images.onDrive(drive.id()).stream().filter(each -> seen.missing().contains(each.id()))
            .collect(Collectors.toMap(Images.OnDrive::id, Images.OnDrive::name));
        images.standings().stream().filter(each -> names.containsKey(each.id()) && !each.standing().damaged()).forEach(each -> {
            String sentence = each.name() + " is not on " + drive.name() + " any more.";
            imageRecords.recordCheck(each.id(), new CheckOutcome(ProofLevel.COMPLETE, List.of(new Problem(each.name(), 0, 0, "", sentence)),
                0),
                0, BY);
            journal.add(BY, "check", each.disk(), Journal.Result.FAILED, sentence + " Nothing counts on it.",
                Journal.Facts.of(List.of(drive.id()), Map.of(), "/images/" + each.id()));
        });
        if (seen.isNothing()) {
            told.remove(drive.id());
        } else {
            told.put(drive.id(), new Told(drive.name(), names, seen.images(), seen.trash()));
        }
    }

    /**
     * A person says that missing images are gone for good. Their records stay.
     *
     * @throws Refused when one of them is there, or its drive is not attached; nothing is changed then
     */
    synchronized void writeOff(Collection<UUID> wanted, String who) throws IOException {
        Map<UUID, Images.Shelved> gone = wanted.stream().distinct().collect(Collectors.toMap(id -> id, images::shelved));
        Map<String, Set<UUID>> missing = new HashMap<>();
        for (String drive : gone.values().stream().map(Images.Shelved::destinationId).collect(Collectors.toSet())) {
            missing.put(drive, look.of(drive).missing());
        }
        gone.forEach((id, image) -> {
            if (!missing.get(image.destinationId()).contains(id)) {
                throw new Refused(HttpStatus.CONFLICT, "not-missing", "",
                    image.name() + " is on " + image.destination() + ". Nothing was changed; check it, or release it.");
            }
        });
        gone.forEach((id, image) -> {
            imageRecords.gone(id);
            journal.add(who, "write off", image.disk(), Journal.Result.DONE,
                image.name() + " is gone from " + image.destination() + ", and was written off.",
                Journal.Facts.of(List.of(image.destinationId()),
                    Map.of("bytes", image.storedBytes()), "/images/" + id));
        });
        missing.keySet().forEach(drive -> told.computeIfPresent(drive, (id, before) -> before.without(gone.keySet())));
    }
}
