package app.granary.engine.shell;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.proof.ProofLevel;
import java.time.Instant;

/**
 * One command that made, copied, checked or repaired an image.
 *
 * @param at      when it ended
 * @param by      who typed it, 1 to 60 characters
 * @param image   name of the image, as its folder's
 * @param disk    the disk the image is of
 * @param level   how far the image was checked by it
 * @param ok      whether it was found sound as far as that
 * @param bytes   read for the check
 * @param seconds it took, 0 or more
 * @param comment on the image; at most 500 characters, usually empty
 */
public record ShellNote(Instant at, String by, Did did, String image, DiskIdentity disk, ProofLevel level, boolean ok, long bytes,
    double seconds, String comment) {
    static final int LONGEST_BY = 60;
    static final int LONGEST_COMMENT = 500;

    /** Which command. */
    public enum Did {
        CAPTURE("made"), COPY("copied there"), CHECK("checked"), REPAIR("repaired");

        private final String past;

        Did(String past) {
            this.past = past;
        }

        /** The word in the file. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }

        /** As in "it was made". */
        public String past() {
            return past;
        }
    }

    public ShellNote {
        by = plain(by, LONGEST_BY);
        comment = plain(comment, LONGEST_COMMENT);
        by = by.isEmpty() ? "somebody" : by;
    }

    private static String plain(String text, int longest) {
        String line = text.replaceAll("\\p{Cntrl}", " ").strip();
        return line.length() > longest ? line.substring(0, longest) : line;
    }
}
