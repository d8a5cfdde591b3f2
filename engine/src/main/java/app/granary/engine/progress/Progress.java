package app.granary.engine.progress;

/**
 * Where long work stands.
 *
 * @param stage       what it is doing
 * @param doneBytes   of this stage, in bytes of the disk for reading, in stored bytes for checking
 * @param totalBytes  of this stage
 * @param storedBytes written to the destination so far
 */
public record Progress(Stage stage, long doneBytes, long totalBytes, long storedBytes) {

    public enum Stage {
        CAPTURING, CHECKING, RESTORING;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }
}
