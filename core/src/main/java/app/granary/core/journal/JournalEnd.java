package app.granary.core.journal;

import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.CRC32C;

/**
 * The last line of a journal, as it is noted apart from it: a chain of seals shows what was changed within it, and nothing of lines that
 * are cut off its end.
 *
 * @param number of the line, at least 1
 * @param seal   its seal, 64 hexadecimal digits
 * @param at     when it was written
 */
public record JournalEnd(long number, String seal, Instant at) {
    private static final Pattern LINE = Pattern.compile("line (\\d{1,18}), written (\\S{1,40}), seal ([0-9a-f]{64}), sum ([0-9a-f]{8})");

    /** One line of text, with a sum by which a torn one is known (CRC-32C). */
    public String written() {
        String text = "line " + number + ", written " + at + ", seal " + seal;
        return text + ", sum " + sum(text);
    }

    /** @return empty for anything that was not written so, a torn line too */
    public static Optional<JournalEnd> parse(String text) {
        Matcher line = LINE.matcher(text.strip());
        if (!line.matches() || !sum(text.strip().substring(0, text.strip().lastIndexOf(", sum "))).equals(line.group(4))) {
            return Optional.empty();
        }
        try {
            return Optional.of(new JournalEnd(Long.parseLong(line.group(1)), line.group(3), Instant.parse(line.group(2))));
        } catch (DateTimeException odd) {
            return Optional.empty();
        }
    }

    private static String sum(String text) {
        CRC32C crc = new CRC32C();
        crc.update(text.getBytes(StandardCharsets.UTF_8));
        return String.format("%08x", crc.getValue());
    }

    /**
     * What a journal lacks or has changed since this was noted; empty when it is all there.
     *
     * @param last   the last line it has now, or empty when it has none
     * @param itsOwn the seal it has for line {@link #number} now, or an empty string when it has no such line
     * @param noted  where this was noted, in words: "beside the database"
     */
    public Optional<String> missing(Optional<JournalEnd> last, String itsOwn, String noted) {
        if (itsOwn.equals(seal)) {
            return Optional.empty();
        }
        if (last.isPresent() && last.get().number >= number) {
            return Optional.of("Line " + number + " of the journal, written " + at + ", is another one now than was noted " + noted + ".");
        }
        long kept = last.map(JournalEnd::number).orElse(0L);
        return Optional.of(
            (kept + 1 == number ? "Line " + number + " of the journal is" : "Lines " + (kept + 1) + " to " + number + " of the journal are")
                + " missing: "
                + last.map(end -> "it ends with line " + kept + " of " + end.at).orElse("it is empty") + ", and line " + number
                + ", written " + at + ", was noted " + noted + ".");
    }
}
