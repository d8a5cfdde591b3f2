package app.granary.core.image;

/**
 * Sectors that could not be read when an image was made, and are zeros in it for ever.
 *
 * @param startBytes where on the disk, 0 or more
 * @param sizeBytes  how many bytes, more than 0; both whole sectors, but for the end of a disk
 */
public record BadStretch(long startBytes, long sizeBytes) {
    public BadStretch {
        if (startBytes < 0 || sizeBytes <= 0 || startBytes + sizeBytes < 0) {
            throw new IllegalArgumentException(sizeBytes + " bytes from " + startBytes);
        }
    }

    /** First byte after it. */
    public long endBytes() {
        return startBytes + sizeBytes;
    }
}
