package app.granary.server.image;

import app.granary.core.proof.Evidence;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * All copies that are not gone, with how far each is proven, kept in memory: nearly every page asks for all of them. What changes in the
 * database is read again when it is next asked for, once it is committed.
 */
@Component
class ImageShelf {
    private final CopyRepository copies;
    private final ImageCheckRepository checks;
    private final Map<UUID, Kept> byId = new HashMap<>();
    private final Set<UUID> changed = ConcurrentHashMap.newKeySet();
    private final Set<UUID> changedImages = ConcurrentHashMap.newKeySet();
    private Snapshot snapshot;
    /** All of the snapshot, as it is told of; empty until somebody asks. */
    private Optional<List<Images.OnShelf>> told = Optional.empty();

    ImageShelf(CopyRepository copies, ImageCheckRepository checks) {
        this.copies = copies;
        this.checks = checks;
    }

    /** A copy or a check of it was written. */
    record Changed(UUID copyId) {
    }

    /** What all copies of an image have in common was written. */
    record ImageChanged(UUID imageId) {
    }

    /**
     * @param checkedAt when it was last checked, however that went; empty when it never was
     * @param bootedBy  who signed last that a computer was started from it; empty when nobody did
     */
    record Kept(Copy copy, Standing standing, Optional<Instant> checkedAt, Optional<String> bootedBy) {
        static Kept of(Copy copy, List<Evidence> evidence) {
            return new Kept(copy, Standing.of(evidence, copy.image().recheckDays()),
                evidence.stream().map(Evidence::at).max(Comparator.naturalOrder()),
                evidence.stream().filter(each -> each.ok() && each.level() == ProofLevel.BOOTED).max(Comparator.comparing(Evidence::at))
                    .map(Evidence::by));
        }

        Image image() {
            return copy.image();
        }

        boolean isKept() {
            return copy.isKept();
        }

        Images.OnShelf onShelf() {
            return new Images.OnShelf(standings(), !isKept(), image().usedBytes(), image().badBytes(), image().origin().word(), bootedBy);
        }

        Images.Standings standings() {
            Image i = image();
            return new Images.Standings(copy.id(), i.name(), i.computer(), i.disk(), i.diskId(), copy.destinationId(), copy.destination(),
                i.madeAt(), i.encrypted(), i.recheckDays(), i.id(),
                i.origin() == Image.Origin.PAPER, standing, copy.storedBytes(), copy.lacks());
        }
    }

    /**
     * As it was at one moment; all lists newest first, of copies of one moment the one proven furthest.
     *
     * @param all    kept ones and released ones
     * @param kept   without the released
     * @param byDisk the same, by disk
     */
    record Snapshot(List<Kept> all, List<Images.Standings> kept, Map<String, List<Images.Standings>> byDisk) {
        static Snapshot of(List<Kept> newestFirst) {
            List<Images.Standings> kept = newestFirst.stream().filter(Kept::isKept).map(Kept::standings).toList();
            return new Snapshot(newestFirst, kept, kept.stream().collect(Collectors.groupingBy(Images.Standings::diskId)));
        }
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void committed(Changed change) {
        changed.add(change.copyId);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void committed(ImageChanged change) {
        changedImages.add(change.imageId);
    }

    synchronized Snapshot now() {
        if (snapshot == null) {
            loadAll();
        } else if (!changed.isEmpty() || !changedImages.isEmpty()) {
            for (UUID id : List.copyOf(changedImages)) {
                changedImages.remove(id);
                byId.values().stream().filter(each -> each.image().id().equals(id)).map(each -> each.copy.id()).forEach(changed::add);
            }
            for (UUID id : List.copyOf(changed)) {
                changed.remove(id);
                load(id);
            }
            sort();
        }
        return snapshot;
    }

    /** The very same list as before while nothing has changed. */
    synchronized List<Images.OnShelf> onShelf() {
        List<Kept> all = now().all();
        if (told.isEmpty()) {
            told = Optional.of(all.stream().map(Kept::onShelf).toList());
        }
        return told.get();
    }

    private void loadAll() {
        changed.clear();
        changedImages.clear();
        Map<UUID, List<CheckOfCopy>> evidence = checks.evidence().stream().collect(Collectors.groupingBy(CheckOfCopy::copyId));
        copies.notGone().forEach(copy -> byId.put(copy.id(), kept(copy, evidence.getOrDefault(copy.id(), List.of()))));
        sort();
    }

    private void load(UUID id) {
        Optional<Copy> copy = copies.findById(id).filter(each -> each.shelf() != Copy.Shelf.GONE);
        if (copy.isPresent()) {
            byId.put(id, kept(copy.get(), checks.evidenceOf(id)));
        } else {
            byId.remove(id);
        }
    }

    private static Kept kept(Copy copy, List<CheckOfCopy> found) {
        return Kept.of(copy, found.stream()
            .map(c -> new Evidence(c.level(), c.ok(), c.checkedAt(), c.checkedBy(), copy.destination(), c.seconds())).toList());
    }

    private void sort() {
        List<Kept> all = new ArrayList<>(byId.values());
        all.sort(Comparator.comparing((Kept each) -> each.image().madeAt()).reversed()
            .thenComparing((Kept each) -> each.standing.level().map(Enum::ordinal).orElse(-1), Comparator.reverseOrder())
            .thenComparing(each -> each.copy.id()));
        snapshot = Snapshot.of(List.copyOf(all));
        told = Optional.empty();
    }
}
