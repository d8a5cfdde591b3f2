package app.granary.server.image;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/** Finding and ordering images of the shelf. */
final class ShelfOrder {
    private ShelfOrder() {
    }

    /** @param text words, each of which must stand in the image's name, computer, disk, serial or destination; case not counted */
    static List<ImageShelf.Kept> matching(List<ImageShelf.Kept> all, String text) {
        String[] words = text.strip().toLowerCase(Locale.ROOT).split("\\s+");
        if (text.isBlank()) {
            return all;
        }
        return all.stream().filter(each -> {
            Image i = each.image();
            String told = (i.name() + ' ' + i.computer() + ' ' + i.disk() + ' ' + i.serial() + ' ' + each.copy().destination())
                .toLowerCase(Locale.ROOT);
            for (String word : words) {
                if (!told.contains(word)) {
                    return false;
                }
            }
            return true;
        }).toList();
    }

    /** @param newestFirst which is how they stay among equals */
    static List<ImageShelf.Kept> sorted(List<ImageShelf.Kept> newestFirst, String by, boolean descending) {
        if (by.equals("madeAt") && descending) {
            return newestFirst;
        }
        Comparator<ImageShelf.Kept> order = switch (by) {
            case "computer" -> Comparator.comparing((ImageShelf.Kept k) -> k.image().computer()).thenComparing(k -> k.image().disk());
            case "storedBytes" -> Comparator.comparing(k -> k.copy().storedBytes());
            case "usedBytes" -> Comparator.comparing(k -> k.image().usedBytes());
            case "destination" -> Comparator.comparing(k -> k.copy().destination());
            case "proof" -> Comparator.comparing(k -> k.standing().damaged() ? -1 : k.standing().level().map(Enum::ordinal).orElse(-1));
            case "checkedAt" -> Comparator.comparing(k -> k.checkedAt().orElse(Instant.EPOCH));
            default -> Comparator.comparing(k -> k.image().madeAt());
        };
        return newestFirst.stream().sorted(descending ? order.reversed() : order).toList();
    }
}
