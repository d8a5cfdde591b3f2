package app.granary.core.proof;

/**
 * Something wrong with an image.
 *
 * @param part           the file within the bag
 * @param offsetBytes    where in that file the damage begins; of an encrypted part, in its decrypted content
 * @param lengthBytes    how much of the file is in doubt; 0 for a part that is missing or should not be there
 * @param partition      the partitions of the disk whose data is in doubt, in words, or an empty string when none is
 * @param diskStartBytes first byte of the disk that is in doubt
 * @param diskEndBytes   first byte behind what is in doubt; the same as the start when nothing of the disk is
 * @param message        what is wrong, expected against found, and what to do
 */
public record Problem(String part, long offsetBytes, long lengthBytes, String partition, long diskStartBytes, long diskEndBytes,
    String message) {
    /** Nothing of the disk is in doubt, or it is not known what. */
    public Problem(String part, long offsetBytes, long lengthBytes, String partition, String message) {
        this(part, offsetBytes, lengthBytes, partition, 0, 0, message);
    }
}
