package app.granary.server.account;

import com.ibm.icu.text.SpoofChecker;
import java.text.Normalizer;
import java.util.Locale;

/**
 * Names of accounts. Two that look alike are one: by case, by composition, and by letters of other scripts (Unicode UTS 39, confusables).
 */
final class Names {
    private static final SpoofChecker LOOKS = new SpoofChecker.Builder().build();

    private Names() {
    }

    static boolean fit(String name) {
        return name.matches("[\\p{L}\\p{N}][\\p{L}\\p{N}._-]{1,59}") && !alike(name, "granary");
    }

    /** Whether one could be taken for the other: a capital I for an l, too. */
    static boolean alike(String one, String other) {
        return look(one).equals(look(other)) || LOOKS.getSkeleton(one).equalsIgnoreCase(LOOKS.getSkeleton(other));
    }

    /** What a name looks like whatever its case. */
    static String look(String name) {
        String folded = Normalizer.normalize(name, Normalizer.Form.NFKC).toLowerCase(Locale.ROOT);
        return LOOKS.getSkeleton(LOOKS.getSkeleton(folded).toLowerCase(Locale.ROOT));
    }
}
