package app.granary.server.problem;

import org.springframework.http.HttpStatus;

/** The version a page saw of what it changes, as it comes in {@code If-Match} (RFC 9110, section 13.1.1). */
public final class IfMatch {
    private static final int MOST_DIGITS = 18;

    private IfMatch() {
    }

    /** @throws Refused when the header holds no version */
    public static long version(String header) {
        String digits = header.replaceAll("[^0-9]", "");
        if (digits.isEmpty() || digits.length() > MOST_DIGITS) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "", "The page sent no version of what it changes. Load it again.");
        }
        return Long.parseLong(digits);
    }

    /** What to say when another person was quicker, and nothing is known of what they did. */
    public static Refused changedMeanwhile(String name) {
        return changedBy("Someone changed " + name + " while you were editing it.");
    }

    /** @param change who changed it and how, as a sentence */
    public static Refused changedBy(String change) {
        return new Refused(HttpStatus.PRECONDITION_FAILED, "changed-meanwhile", "",
            change + " Yours is not saved. Keep your edits, or load the page again to see theirs.");
    }
}
