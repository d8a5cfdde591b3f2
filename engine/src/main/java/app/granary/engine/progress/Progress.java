package app.granary.engine.progress;

/**
 * Where long work stands.
 *
 * @param stage       what it is doing
 * @param doneBytes   of this stage, in bytes of the disk for reading, restoring and comparing, in stored bytes otherwise; for sampling, of
 *                    the most that may be read
 * @param totalBytes  of this stage
 * @param storedBytes written to the destination so far
 */
public record Progress(Stage stage, long doneBytes, long totalBytes, long storedBytes) {

    public enum Stage {
        SAMPLING, CAPTURING, CHECKING, RESTORING, COMPARING, COPYING, MENDING, FETCHING, SHRINKING;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }
}
