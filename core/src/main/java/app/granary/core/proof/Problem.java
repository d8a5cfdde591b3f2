package app.granary.core.proof;

/**
 * Something wrong with an image.
 *
 * @param part        the file within the bag
 * @param offsetBytes where in that file the damage begins
 * @param lengthBytes how much of the file is in doubt; 0 for a part that is missing or should not be there
 * @param partition   the partitions of the disk whose data is in doubt, in words, or an empty string when none is
 * @param message     what is wrong, expected against found, and what to do
 */
public record Problem(String part, long offsetBytes, long lengthBytes, String partition, String message) {
}
