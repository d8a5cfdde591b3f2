package app.granary.core.layout;

/**
 * Why an image cannot be laid so.
 *
 * @param kind     a stable word
 * @param sentence why, with the figures, and what to do
 */
public record Refusal(Kind kind, String sentence) {
    /** The sorts of refusal. */
    public enum Kind {
        TOO_SMALL, SHRINK_FIRST, SECTOR_SIZE, TABLE, OUT_OF_BOUNDS, NOTHING_CHOSEN, OTHERS_DIFFER;

        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        }
    }
}
