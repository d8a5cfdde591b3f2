package app.granary.server.image;

import app.granary.core.proof.Evidence;
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
 * All images that are not gone, with how far each is proven, kept in memory: nearly every page asks for all of them. What changes in the database is read again
 * when it is next asked for, once it is committed.
 */
@Component
class ImageShelf {
    private final ImageRepository images;
    private final ImageCheckRepository checks;
    private final Map<UUID, Kept> byId = new HashMap<>();
    private final Set<UUID> changed = ConcurrentHashMap.newKeySet();
    private Snapshot snapshot;

    ImageShelf(ImageRepository images, ImageCheckRepository checks) {
        this.images = images;
        this.checks = checks;
    }

    /** An image or a check of it was written. */
    record Changed(UUID imageId) {
    }

    /** @param checkedAt when it was last checked, however that went; empty when it never was */
    record Kept(Image image, Standing standing, Optional<Instant> checkedAt) {
        boolean isKept() {
            return image.shelf() == Image.Shelf.KEPT;
        }

        Images.Standings standings() {
            Image i = image;
            return new Images.Standings(i.id(), i.name(), i.computer(), i.disk(), i.diskId(), i.destinationId(), i.destination(), i.madeAt(), i.encrypted(), i.recheckDays(), i.setId(),
                i.origin() == Image.Origin.PAPER, standing, i.storedBytes(), i.lacks());
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
        changed.add(change.imageId);
    }

    synchronized Snapshot now() {
        if (snapshot == null) {
            loadAll();
        } else if (!changed.isEmpty()) {
            for (UUID id : List.copyOf(changed)) {
                changed.remove(id);
                load(id);
            }
            sort();
        }
        return snapshot;
    }

    private void loadAll() {
        changed.clear();
        Map<UUID, List<CheckOfImage>> evidence = checks.evidence().stream().collect(Collectors.groupingBy(CheckOfImage::imageId));
        images.findByShelfNotOrderByMadeAtDesc(Image.Shelf.GONE).forEach(image -> byId.put(image.id(), kept(image, evidence.getOrDefault(image.id(), List.of()))));
        sort();
    }

    private void load(UUID id) {
        Optional<Image> image = images.findById(id).filter(each -> each.shelf() != Image.Shelf.GONE);
        if (image.isPresent()) {
            byId.put(id, kept(image.get(), checks.evidenceOf(id)));
        } else {
            byId.remove(id);
        }
    }

    private static Kept kept(Image image, List<CheckOfImage> found) {
        List<Evidence> evidence = found.stream().map(c -> new Evidence(c.level(), c.ok(), c.checkedAt(), c.checkedBy(), image.destination(), c.seconds())).toList();
        return new Kept(image, Standing.of(evidence, image.recheckDays()), evidence.stream().map(Evidence::at).max(Comparator.naturalOrder()));
    }

    private void sort() {
        List<Kept> all = new ArrayList<>(byId.values());
        all.sort(Comparator.comparing((Kept each) -> each.image.madeAt()).reversed().thenComparing((Kept each) -> each.standing.level().map(Enum::ordinal).orElse(-1), Comparator.reverseOrder()).thenComparing(each -> each.image.id()));
        snapshot = Snapshot.of(List.copyOf(all));
    }
}
