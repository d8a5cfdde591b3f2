package app.granary.core.destination;

/**
 * An image in parts of one length.
 *
 * @param bytes longest part, more than 0
 */
public record Parts(long bytes) {
    /** More files than this in one folder are slow to list and awkward to check by hand (common practice, no source). */
    private static final long SENSIBLE = 1000;

    public Parts {
        if (bytes <= 0) {
            throw new IllegalArgumentException("a part must have a length: " + bytes);
        }
    }

    /** How many are needed for an image of at most that many bytes. */
    public long count(long imageBytes) {
        return Math.max(1, imageBytes / bytes + (imageBytes % bytes == 0 ? 0 : 1));
    }

    /** Whether that many are too many to be a good idea. */
    public boolean silly(long imageBytes) {
        return count(imageBytes) > SENSIBLE;
    }
}
