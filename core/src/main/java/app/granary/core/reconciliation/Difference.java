package app.granary.core.reconciliation;

import java.util.List;
import java.util.Locale;

/**
 * Something in which a drive and the database differ.
 *
 * @param driveId of the destination
 * @param drive   its name
 * @param names   of what is meant: images, or folders of a trash; in order, never empty
 */
public record Difference(Kind kind, String driveId, String drive, List<String> names) {
    private static final int NAMED = 3;

    /** Which way they differ. */
    public enum Kind {
        /** Images of the database that are not on the drive. */
        MISSING,
        /** Images on the drive that are not in the database. */
        UNKNOWN_IMAGES,
        /** What lies in the drive's trash and no release put there. */
        UNKNOWN_IN_TRASH;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    public Difference {
        names = List.copyOf(names);
    }

    public String title() {
        return switch (kind) {
            case MISSING -> (one() ? names.get(0) + " is" : names.size() + " images are") + " missing on " + drive;
            case UNKNOWN_IMAGES -> drive + " holds " + (one() ? "an image" : names.size() + " images") + " that Granary does not know";
            case UNKNOWN_IN_TRASH -> "The trash of " + drive + " holds something that Granary does not know";
        };
    }

    /** What it is, and what a person can do. */
    public String sentence() {
        return switch (kind) {
            case MISSING -> named() + (one() ? " is" : " are") + " not where Granary put " + (one() ? "it" : "them")
                + ". If somebody moved " + (one() ? "it, move it" : "them, move them")
                + " back and check again. Nothing counts on " + (one() ? "it" : "them") + " meanwhile.";
            case UNKNOWN_IMAGES -> named() + (one() ? " was" : " were")
                + " perhaps made after the copy that Granary's database was brought back from, or by another office. Look through " + drive
                + " and add "
                + (one() ? "it" : "them") + ", or leave " + (one() ? "it" : "them") + ": Granary does not touch what it does not know.";
            case UNKNOWN_IN_TRASH -> "granary-trash/" + names.get(0) + (one() ? "" : " and " + (names.size() - 1) + " more")
                + ". What lies in it may be an image; move it back to where its folders say, look through the drive, or remove it by hand.";
        };
    }

    private boolean one() {
        return names.size() == 1;
    }

    private String named() {
        List<String> shown = names.subList(0, Math.min(NAMED, names.size()));
        int more = names.size() - shown.size();
        return one() ? shown.get(0) : more > 0 ? String.join(", ", shown) + " and " + more + " more"
            : String.join(", ", shown.subList(0, shown.size() - 1)) + " and " + shown.get(shown.size() - 1);
    }
}
