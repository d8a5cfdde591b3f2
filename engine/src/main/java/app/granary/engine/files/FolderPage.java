package app.granary.engine.files;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * Some of the names in a folder, in an order.
 *
 * @param total    how many the folder has
 * @param bytes    of the files among them
 * @param matching how many of them are asked for
 * @param lines    of those, the ones that were asked for
 */
public record FolderPage(int total, long bytes, int matching, List<FileLine> lines) {
    /** By what it is in order; folders come before files. */
    public enum Sort {
        NAME, BYTES, MODIFIED
    }

    /**
     * @param text that stands in the name, in any case; an empty string for all
     * @param from 0 and up
     * @param most 1 and up
     */
    public record Asked(String text, Sort sort, boolean descending, int from, int most) {
        /** All of them, by name. */
        public static final Asked ALL = new Asked("", Sort.NAME, false, 0, Integer.MAX_VALUE);

        private List<FileLine> ordered(List<FileLine> byName) {
            if (sort == Sort.NAME && !descending) {
                return byName;
            }
            Comparator<FileLine> by = switch (sort) {
                case NAME -> Comparator.comparing(FileLine::name, String.CASE_INSENSITIVE_ORDER).thenComparing(FileLine::name);
                case BYTES -> Comparator.comparingLong(FileLine::bytes);
                case MODIFIED -> Comparator.comparing(FileLine::modifiedAt);
            };
            return byName.stream().sorted(Comparator.comparing((FileLine each) -> !each.leadsDown())
                .thenComparing(descending ? by.reversed() : by)).toList();
        }
    }

    public FolderPage {
        lines = List.copyOf(lines);
    }

    /** In the order a folder is shown in at first; what is in it already is put in another order soonest. */
    public static List<FileLine> inOrder(List<FileLine> lines) {
        return NameOrder.of(lines);
    }

    /** @param all of the folder, as {@link #inOrder} gives it; two that are the same by what is asked stay in that order */
    public static FolderPage of(List<FileLine> all, Asked asked) {
        List<FileLine> matching = asked.ordered(asked.text.isEmpty() ? all
            : all.stream().filter(each -> contains(each.name(), asked.text)).toList());
        int from = Math.min(matching.size(), asked.from);
        int to = (int) Math.min(matching.size(), (long) from + asked.most);
        return new FolderPage(all.size(), all.stream().mapToLong(FileLine::bytes).sum(), matching.size(), matching.subList(from, to));
    }

    static boolean contains(String name, String text) {
        return text.isEmpty() || name.toLowerCase(Locale.ROOT).contains(text.toLowerCase(Locale.ROOT));
    }
}
