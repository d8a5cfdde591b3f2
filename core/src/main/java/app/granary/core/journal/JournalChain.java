package app.granary.core.journal;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;

/**
 * Seals each line with the seal of the line before it (SHA-256, FIPS 180-4): a line that is changed, taken out or put in afterwards breaks
 * the chain there. Who rewrites every line from there on can make a new chain; that is found by comparing with a seal that was printed or
 * exported before.
 */
public final class JournalChain {
    /** Stands where there is no line before. */
    public static final String START = "0".repeat(64);
    private static final int MOST_BREAKS = 100;

    private final List<Break> breaks = new ArrayList<>();
    private String seal = START;
    private long number;

    /**
     * Where the journal is not what it was.
     *
     * @param number   of the line
     * @param sentence what is wrong with it
     */
    public record Break(long number, String sentence) {
    }

    /** @return the seal of a line that follows one with the seal given; 64 hexadecimal digits */
    public static String seal(String before, JournalLine line) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            digest.update(before.getBytes(StandardCharsets.US_ASCII));
            return HexFormat.of().formatHex(digest.digest(line.sealed()));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /**
     * Takes the next line; in order of number. After one that is broken the chain goes on from the seal it carries, so that each break is
     * told once.
     */
    public void next(JournalLine line, String itsSeal) {
        if (line.number() != number + 1) {
            say(line.number(), line.number() <= number ? "Line " + line.number() + " stands twice, or out of order."
                : missing(number + 1, line.number() - 1));
        } else if (!seal(seal, line).equals(itsSeal)) {
            say(line.number(), "Line " + line.number() + " is not what was written: its text and its seal do not belong together.");
        }
        number = line.number();
        seal = itsSeal;
    }

    /**
     * Says that the journal ends here.
     *
     * @param lastNumber what was noted apart as its last line
     * @param lastSeal   and that one's seal
     */
    public List<Break> end(long lastNumber, String lastSeal) {
        if (lastNumber > number) {
            say(lastNumber, missing(number + 1, lastNumber));
        } else if (lastNumber < number || !lastSeal.equals(seal)) {
            say(number, "The last line is not the one that was noted as the last.");
        }
        return List.copyOf(breaks);
    }

    /** Of the last line taken; {@link #START} before any. */
    public String seal() {
        return seal;
    }

    public long lines() {
        return number;
    }

    private void say(long line, String sentence) {
        if (breaks.size() < MOST_BREAKS) {
            breaks.add(new Break(line, sentence));
        }
    }

    private static String missing(long from, long to) {
        return from == to ? "Line " + from + " is missing." : "Lines " + from + " to " + to + " are missing.";
    }
}
