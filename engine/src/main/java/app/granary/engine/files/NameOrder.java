package app.granary.engine.files;

import app.granary.core.filesystem.FileNames;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Locale;
import java.util.stream.IntStream;

/**
 * Places of names, by the names: folders first, then by the names in any case, then by the names. A large folder is put in order by figures
 * made of its names, and only names with the same figure are compared: comparing them all would take longer than reading the folder.
 */
final class NameOrder {
    /** Letters from here on are alike in a figure: what follows one of them tells nothing. */
    private static final int MOST = 0xFF;
    private static final int FIGURE_BITS = 32;
    private static final int PLACE_BITS = 31;
    private static final long PLACE = (1L << PLACE_BITS) - 1;

    private final FileNames names;
    private final String[] keys;

    private NameOrder(FileNames names) {
        this.names = names;
        this.keys = IntStream.range(0, names.count()).mapToObj(each -> key(names.name(each))).toArray(String[]::new);
    }

    private static String key(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    static int[] of(FileNames names) {
        return new NameOrder(names).inOrder();
    }

    /** Folders and files alike. */
    static Comparator<Integer> byName(FileNames names) {
        return Comparator.comparing((Integer each) -> key(names.name(each))).thenComparing(names::name);
    }

    private int[] inOrder() {
        int shared = shared();
        int[] ranks = ranks(shared);
        long[] figures = new long[keys.length];
        for (int i = 0; i < figures.length; i++) {
            figures[i] = figure(i, shared, ranks);
        }
        Arrays.sort(figures);
        int[] out = new int[figures.length];
        for (int from = 0, to; from < figures.length; from = to) {
            to = from + 1;
            while (to < figures.length && figures[to] >>> PLACE_BITS == figures[from] >>> PLACE_BITS) {
                to++;
            }
            put(figures, from, to, out);
        }
        return out;
    }

    /**
     * Of each letter that stands anywhere after those that all names begin with, its number in their order, from 1; the number of the last
     * is that of {@link #MOST}. A folder of numbered files has eleven letters or so, and then a figure holds many of them.
     */
    private int[] ranks(int shared) {
        boolean[] there = new boolean[MOST + 1];
        for (String key : keys) {
            for (int i = shared; i < key.length(); i++) {
                there[Math.min(MOST, key.charAt(i))] = true;
            }
        }
        there[MOST] = true;
        int[] out = new int[MOST + 1];
        for (int letter = 0, rank = 0; letter <= MOST; letter++) {
            out[letter] = there[letter] ? ++rank : 0;
        }
        return out;
    }

    /** Below 0 for a folder. Then the first letters after those that all names begin with, as many as there is room for; then the place. */
    private long figure(int place, int shared, int[] ranks) {
        String key = keys[place];
        int bits = Integer.SIZE - Integer.numberOfLeadingZeros(ranks[MOST]);
        long letters = 0;
        boolean tells = true;
        for (int i = shared; i < shared + FIGURE_BITS / bits; i++) {
            int letter = tells && i < key.length() ? Math.min(MOST, key.charAt(i)) : -1;
            tells &= letter < MOST;
            letters = letters << bits | (letter < 0 ? 0 : ranks[letter]);
        }
        return (names.isFolder(place) ? Long.MIN_VALUE : 0) | letters << PLACE_BITS | place;
    }

    /** Those with the same letters, in the order of all of their letters. */
    private void put(long[] figures, int from, int to, int[] out) {
        if (to == from + 1) {
            out[from] = (int) (figures[from] & PLACE);
            return;
        }
        Integer[] places = new Integer[to - from];
        for (int i = from; i < to; i++) {
            places[i - from] = (int) (figures[i] & PLACE);
        }
        Arrays.sort(places, this::compared);
        for (int i = from; i < to; i++) {
            out[i] = places[i - from];
        }
    }

    private int compared(int a, int b) {
        int by = keys[a].compareTo(keys[b]);
        return by == 0 ? names.name(a).compareTo(names.name(b)) : by;
    }

    /** How many letters all of them begin with. */
    private int shared() {
        int shared = keys.length == 0 ? 0 : keys[0].length();
        for (String key : keys) {
            int same = 0;
            while (same < Math.min(shared, key.length()) && key.charAt(same) == keys[0].charAt(same)) {
                same++;
            }
            shared = same;
        }
        return shared;
    }
}
