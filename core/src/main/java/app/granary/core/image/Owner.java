package app.granary.core.image;

import app.granary.core.disk.Partition;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Pattern;

/**
 * The disk that an image made elsewhere is of, by what was found.
 *
 * @param diskId its identity in the inventory
 * @param why    by what it is known, as a sentence
 */
public record Owner(String diskId, String why) {

    /** A stretch of a disk. */
    public record Place(long startBytes, long sizeBytes) {
    }

    /**
     * A disk it could be of.
     *
     * @param tableId as {@link DiskInside#tableId()}; an empty string when the disk's table was not read
     * @param places  its partitions, without those that only hold others
     */
    public record Candidate(String diskId, String computer, String serial, String tableId, List<Place> places) {
        public Candidate {
            places = List.copyOf(places);
        }
    }

    /**
     * The surest sign that points at one disk alone: the serial in it, the table's own identity, the places of its partitions, the
     * computer's name or the serial in its file name. A sign that points at several disks, as a cloned table does, decides nothing.
     *
     * @param fileName as it lies there; only its letters and digits count, in either case
     */
    public static Optional<Owner> of(DiskInside inside, String fileName, List<Candidate> known) {
        List<Place> places = inside.partitions().stream().filter(p -> !p.container()).map(p -> new Place(p.startBytes(), p.sizeBytes()))
            .toList();
        return only(known, c -> !inside.serial().isEmpty() && c.serial.equals(inside.serial()), "its serial number is in the image")
            .or(() -> only(known, c -> !inside.tableId().isEmpty() && c.tableId.equals(inside.tableId()),
                "the partition table in it carries that disk's identity"))
            .or(() -> only(known, c -> !places.isEmpty() && c.places.equals(places), "its partitions lie where that disk's lie"))
            .or(() -> only(known, c -> word(c.serial, fileName), "the file's name has the disk's serial number"))
            .or(() -> only(known, c -> word(c.computer, fileName), "the file's name has the computer's name, which has one disk"));
    }

    private static Optional<Owner> only(List<Candidate> known, Predicate<Candidate> sign, String why) {
        List<Candidate> found = known.stream().filter(sign).toList();
        return found.size() == 1 ? Optional.of(new Owner(found.get(0).diskId, "Of " + found.get(0).computer + ": " + why + "."))
            : Optional.empty();
    }

    /** Whether a name is a word of the file's name: PLUMB in plumb-2024.img, not in plumbing.img. */
    private static boolean word(String name, String fileName) {
        String upper = name.toUpperCase(Locale.ROOT);
        return !name.isEmpty()
            && Pattern.compile("(?<![A-Z0-9])" + Pattern.quote(upper) + "(?![A-Z0-9])").matcher(fileName.toUpperCase(Locale.ROOT)).find();
    }
}
