package app.granary.core.journal;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;

/**
 * One line of the journal, as it is sealed.
 *
 * @param number   1 and up, without a gap
 * @param at       to the millisecond; what is finer is not kept
 * @param account  who did it
 * @param action   what was done, in a few words
 * @param subject  to which disk, image or account; an empty string for none
 * @param devices  serial numbers or identities of the devices that took part, joined by commas; an empty string for none
 * @param result   how it ended, as a word
 * @param sentence all of it in words
 * @param figures  named numbers, as {@code "storedBytes=12 readBytes=40"}; an empty string for none
 * @param evidence the page that shows it, as a path; an empty string for none
 * @param corrects the number of the line it corrects; 0 for none
 */
public record JournalLine(long number, Instant at, String account, String action, String subject, String devices, String result,
    String sentence, String figures, String evidence, long corrects) {
    /** The bytes that are sealed: each field with its length before it, so that no two lines give the same. */
    byte[] sealed() {
        StringBuilder out = new StringBuilder();
        for (String field : List.of("" + number, "" + at.toEpochMilli(), account, action, subject, devices, result, sentence, figures,
            evidence, "" + corrects)) {
            out.append(field.length()).append(':').append(field).append('\n');
        }
        return out.toString().getBytes(StandardCharsets.UTF_8);
    }
}
