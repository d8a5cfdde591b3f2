package app.granary.engine.files;

import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;

/**
 * Some of the names in a folder, in an order.
 *
 * @param total    how many the folder has
 * @param bytes    of the files in the folder; empty where not each of them was read for the answer
 * @param matching how many of them are asked for
 * @param lines    of those, the ones that were asked for
 */
public record FolderPage(int total, OptionalLong bytes, int matching, List<FileLine> lines) {
    /** By what it is in order; folders come before files. */
    public enum Sort {
        NAME, BYTES, MODIFIED
    }

    /**
     * @param text    that stands in the name, in any case; an empty string for all
     * @param from    0 and up
     * @param most    1 and up
     * @param weighed whether the bytes of all files are wanted, which takes reading what each name stands for
     */
    public record Asked(String text, Sort sort, boolean descending, int from, int most, boolean weighed) {
        /** All of them, by name. */
        public static final Asked ALL = new Asked("", Sort.NAME, false, 0, Integer.MAX_VALUE, false);
    }

    public FolderPage {
        lines = List.copyOf(lines);
    }

    static boolean contains(String name, String text) {
        return text.isEmpty() || name.toLowerCase(Locale.ROOT).contains(text.toLowerCase(Locale.ROOT));
    }
}
