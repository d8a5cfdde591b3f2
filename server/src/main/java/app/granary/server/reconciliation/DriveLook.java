package app.granary.server.reconciliation;

import app.granary.engine.host.Shelf;
import app.granary.engine.host.ImageStore;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.Images;
import app.granary.server.retention.Releases;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** One look at one drive, and at what the database says of it. */
@Component
class DriveLook {
    private final ImageStore store;
    private final Images images;
    private final Elsewhere elsewhere;
    private final Releases releases;

    DriveLook(ImageStore store, Images images, Elsewhere elsewhere, Releases releases) {
        this.store = store;
        this.images = images;
        this.elsewhere = elsewhere;
        this.releases = releases;
    }

    /**
     * In which they differ; work under way makes them differ for a moment.
     *
     * @param missing kept images that are not on the drive
     * @param images  names of images on it that are not in the database
     * @param trash   keys in its trash that no release has
     */
    record Seen(Set<UUID> missing, Set<String> images, Set<String> trash) {
        static final Seen NOTHING = new Seen(Set.of(), Set.of(), Set.of());

        boolean isNothing() {
            return missing.isEmpty() && images.isEmpty() && trash.isEmpty();
        }

        /** What was seen both times. */
        Seen and(Seen other) {
            return new Seen(both(missing, other.missing), both(images, other.images), both(trash, other.trash));
        }

        private static <T> Set<T> both(Set<T> one, Set<T> other) {
            return one.stream().filter(other::contains).collect(Collectors.toSet());
        }
    }

    /** @throws IOException when the drive does not answer, or went away meanwhile; nothing is known of it then */
    Seen of(String driveId) throws IOException {
        Shelf shelf = store.shelf(driveId);
        Set<String> strange = new TreeSet<>(shelf.images());
        Set<String> trash = new TreeSet<>(shelf.inTrash());
        Set<UUID> missing = new HashSet<>();
        List<Images.OnDrive> known = images.onDrive(driveId); // after the drive was read: what came onto it meanwhile is known by then
        Set<String> names = known.stream().map(each -> each.name().toLowerCase(Locale.ROOT)).collect(Collectors.toSet());
        strange.removeIf(name -> names.contains(name.toLowerCase(Locale.ROOT)));
        trash.removeAll(releases.keys());
        for (Images.OnDrive each : known) {
            if (each.kept() && !elsewhere.lies(shelf, each.id())) {
                missing.add(each.id());
            }
        }
        store.shelf(driveId); // refused when it was taken off meanwhile: its folder is empty then, and that says nothing of it
        return new Seen(missing, strange, trash);
    }
}
