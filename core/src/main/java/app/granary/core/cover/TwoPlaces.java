package app.granary.core.cover;

import app.granary.core.destination.PlaceKind;
import java.util.Collection;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** The rule that proven images of a disk lie in two kinds of place, one of them off site (common practice, no source). */
public final class TwoPlaces {
    private TwoPlaces() {
    }

    /**
     * @param kinds of the places where proven images of the disk lie
     * @return what is missing, with what to do; empty when the rule is kept
     */
    public static Optional<String> missing(Collection<PlaceKind> kinds) {
        Set<PlaceKind> known = kinds.stream().filter(kind -> kind != PlaceKind.UNKNOWN)
            .collect(Collectors.toCollection(() -> EnumSet.noneOf(PlaceKind.class)));
        if (kinds.isEmpty()) {
            return Optional.of("no proven image lies anywhere");
        }
        if (known.isEmpty()) {
            return Optional.of("nobody noted where its drives are kept; note it on the Destinations page");
        }
        if (!known.contains(PlaceKind.OFF_SITE)) {
            String where = known.stream().map(PlaceKind::phrase).collect(Collectors.joining(" and "));
            return Optional.of("proven images lie " + where + " only; take a drive with one off site");
        }
        return known.size() < 2 ? Optional.of("all proven images are off site; keep one at hand too") : Optional.empty();
    }
}
