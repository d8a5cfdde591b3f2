package app.granary.core.destination;

import java.util.Locale;
import java.util.Optional;

/** The kinds of place a drive can lie in. Copies belong in two kinds of place, one of them off site (common practice, no source). */
public enum PlaceKind {
    HERE("here"), SAFE("in the fire safe"), OFF_SITE("off site"), UNKNOWN("place not known");

    private final String phrase;

    PlaceKind(String phrase) {
        this.phrase = phrase;
    }

    /** The word on the wire. */
    public String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** As sentences say it. */
    public String phrase() {
        return phrase;
    }

    /** The kind with where exactly: {@code "in the fire safe, shelf 2"}. */
    public String words(String exactly) {
        return exactly.isEmpty() || exactly.equals(phrase) ? phrase : phrase + ", " + exactly;
    }

    public static Optional<PlaceKind> parse(String word) {
        for (PlaceKind each : values()) {
            if (each.word().equals(word)) {
                return Optional.of(each);
            }
        }
        return Optional.empty();
    }
}
