package app.granary.core.shelf;

import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * The shelf as it is looked at: images, each with its copies, newest first.
 *
 * @param images in order of time, newest first, of one moment by identity
 */
public record ShelfView(List<ImageOnShelf> images) {
    /** Which of them are wanted. */
    public enum Show {
        ALL, ONE_COPY, NOT_PROVEN, DAMAGED;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        boolean shows(ImageOnShelf image, Instant now) {
            return switch (this) {
                case ALL -> true;
                case ONE_COPY -> image.oneCopyOnly();
                case NOT_PROVEN -> image.notProvenLately(now);
                case DAMAGED -> image.damaged();
            };
        }
    }

    /**
     * How much there is, of what is not released.
     *
     * @param damaged copies whose newest check found damage
     * @param twins   how many of those lie beside a sound copy of the same image
     */
    public record Figures(int images, int disks, int copies, long storedBytes, int damaged, int twins) {
    }

    /** @param copies in any order */
    public static ShelfView of(List<CopyOnShelf> copies) {
        Map<String, List<CopyOnShelf>> byImage = copies.stream().collect(Collectors.groupingBy(CopyOnShelf::imageId));
        return new ShelfView(byImage.values().stream().map(ImageOnShelf::new)
            .sorted(Comparator.comparing(ImageOnShelf::madeAt).reversed().thenComparing(ImageOnShelf::id)).toList());
    }

    public Figures figures() {
        List<ImageOnShelf> kept = images.stream().filter(image -> !image.released()).toList();
        List<CopyOnShelf> copies = kept.stream().flatMap(image -> image.kept().stream()).toList();
        int damaged = (int) copies.stream().filter(copy -> copy.standing().damaged()).count();
        int twins = kept.stream().filter(image -> image.twin().isPresent())
            .mapToInt(image -> (int) image.kept().stream().filter(copy -> copy.standing().damaged()).count()).sum();
        return new Figures(kept.size(), (int) kept.stream().map(ImageOnShelf::diskId).distinct().count(), copies.size(),
            copies.stream().mapToLong(CopyOnShelf::storedBytes).sum(), damaged, twins);
    }

    /** Copies that are there, by the drive they lie on. */
    public Map<String, Long> byDrive() {
        return images.stream().flatMap(image -> image.kept().stream()).filter(CopyOnShelf::seen)
            .collect(Collectors.groupingBy(CopyOnShelf::drive, Collectors.counting()));
    }

    public int count(Show show, Instant now) {
        return (int) images.stream().filter(image -> show.shows(image, now)).count();
    }

    /** @param drive identity of the destination they are to have a copy on; an empty string for any */
    public ShelfView only(Show show, String drive, Instant now) {
        return new ShelfView(images.stream().filter(
            image -> show.shows(image, now) && (drive.isEmpty() || image.copies().stream().anyMatch(copy -> copy.drive().equals(drive))))
            .toList());
    }

    /** By disk, in the order of each disk's newest image. */
    public Map<String, List<ImageOnShelf>> byDisk() {
        return images.stream().collect(Collectors.groupingBy(ImageOnShelf::diskId, LinkedHashMap::new, Collectors.toList()));
    }
}
