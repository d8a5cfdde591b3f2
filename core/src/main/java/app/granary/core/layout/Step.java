package app.granary.core.layout;

/**
 * Something a person does besides the restore.
 *
 * @param command of the system's own tools, with {@code /dev/sdX} for the disk; an empty string when there is none
 */
public record Step(When when, String sentence, String command) {
    /** Before the image can be laid so, or after it was. */
    public enum When {
        BEFORE, AFTER
    }
}
