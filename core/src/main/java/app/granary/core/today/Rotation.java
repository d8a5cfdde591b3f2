package app.granary.core.today;

import app.granary.core.destination.PlaceKind;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** Whose turn it is among drives that take turns off site. */
final class Rotation {
    /** All of a group at hand for longer than this is no rotation any more (common practice, no source). */
    private static final Duration SWAPPED_AFTER = Duration.ofDays(7);

    private Rotation() {
    }

    static List<Todo> of(List<TodayFacts.Drive> drives, Instant now) {
        List<Todo> out = new ArrayList<>();
        Map<String, List<TodayFacts.Drive>> groups = drives.stream().filter(drive -> !drive.rotation().isEmpty())
            .collect(Collectors.groupingBy(TodayFacts.Drive::rotation, TreeMap::new, Collectors.toList()));
        groups.forEach((group, members) -> {
            members.stream().filter(drive -> drive.attached() && away(drive))
                .forEach(drive -> out.add(Todo.of(Todo.Kind.PLACE, drive.name() + " is attached, and noted as " + drive.place().phrase(),
                    "Say where it lies, so that a card sends nobody to the wrong place.").about(drive.id())
                    .doing(Todo.Deed.HERE, "It is here", drive.id())));
            if (members.size() > 1 && members.stream().noneMatch(Rotation::away) && members.stream()
                .allMatch(drive -> drive.place() != PlaceKind.UNKNOWN && drive.since().plus(SWAPPED_AFTER).isBefore(now))) {
                out.add(leaving(group, members));
            }
        });
        return out;
    }

    private static boolean away(TodayFacts.Drive drive) {
        return drive.place() == PlaceKind.OFF_SITE || drive.place() == PlaceKind.SAFE;
    }

    /** The one with the newest images: it is of most use when the others burn. */
    private static Todo leaving(String group, List<TodayFacts.Drive> members) {
        TodayFacts.Drive drive = members.stream().max(Comparator.comparing(TodayFacts.Drive::newest)).orElseThrow();
        return Todo
            .of(Todo.Kind.ROTATION, drive.name() + " is to be taken off site",
                "All of the " + group + " are here, for more than " + SWAPPED_AFTER.toDays()
                    + " days. " + drive.name() + " has the newest images: eject it, and take it away.")
            .about(drive.id()).doing(Todo.Deed.OFF_SITE, "It is off site now", drive.id());
    }
}
