package app.granary.core.journal;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Tells which runs of lines cannot hold a text, so that only the others need reading. It never leaves out a run that holds it (a Bloom
 * filter of three-letter pieces over each run; B. H. Bloom, Space/time trade-offs in hash coding with allowable errors, 1970, from memory);
 * it may name one that does not. 2 KiB for 64 lines. Lines are numbered from 1 without gaps and are added in order. Not for several threads
 * at once.
 */
public final class LineSieve {
    private static final int RUN = 64;
    private static final int BITS = 1 << 14;
    private static final int PIECE = 3;

    private final List<BitSet> runs = new ArrayList<>();
    private long last;

    /** Line numbers, both ends included. */
    public record Lines(long from, long to) {
    }

    /** The number of the last line added; 0 before the first. */
    public long last() {
        return last;
    }

    /**
     * @param text  as it is searched in; case counts
     * @param whole what is asked for as a whole only, such as an account
     */
    public void add(long number, String text, List<String> whole) {
        if (number <= last) {
            throw new IllegalArgumentException("line " + number + " after line " + last);
        }
        while (runs.size() <= run(number)) {
            runs.add(new BitSet(BITS));
        }
        BitSet bits = runs.get(run(number));
        pieces(text).forEach(bits::set);
        whole.forEach(each -> bits.set(bit(each)));
        last = number;
    }

    /**
     * @param text  a part of a line; shorter than three letters excludes nothing
     * @param whole each must be among what was added as a whole
     * @return neighbouring runs joined, in order of number; lines that were not added yet are not among them
     */
    public List<Lines> mayHold(String text, List<String> whole) {
        List<Integer> asked = new ArrayList<>(pieces(text));
        whole.forEach(each -> asked.add(bit(each)));
        List<Lines> out = new ArrayList<>();
        for (int run = 0; run < runs.size(); run++) {
            if (asked.stream().allMatch(runs.get(run)::get)) {
                long from = (long) run * RUN;
                long to = Math.min(last, from + RUN - 1);
                if (!out.isEmpty() && out.get(out.size() - 1).to == from - 1) {
                    out.set(out.size() - 1, new Lines(out.get(out.size() - 1).from, to));
                } else {
                    out.add(new Lines(from, to));
                }
            }
        }
        return out;
    }

    private static int run(long number) {
        return Math.toIntExact(number / RUN);
    }

    private static List<Integer> pieces(String text) {
        List<Integer> out = new ArrayList<>();
        for (int i = 0; i + PIECE <= text.length(); i++) {
            out.add(spread((text.charAt(i) * 31 + text.charAt(i + 1)) * 31 + text.charAt(i + 2)));
        }
        return out;
    }

    private static int bit(String whole) {
        return spread(whole.hashCode() ^ 0x5bd1e995);
    }

    private static int spread(int hash) {
        int mixed = hash * 0x9E3779B1;
        return mixed >>> 18;
    }
}
