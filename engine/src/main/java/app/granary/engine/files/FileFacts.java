package app.granary.engine.files;

/**
 * A file in an image, and how it is kept there.
 *
 * @param chunks      of the image that it lies in
 * @param imageChunks how many the image has
 * @param storedBytes of those chunks in the image: what is read to fetch it
 * @param badBytes    of it that could not be read when the image was made, and are zeros
 * @param stamp       the same for two files that lie at the same places with the same bytes, as far as the checksums of chunks tell; in
 *                    hexadecimal
 */
public record FileFacts(FileLine line, long chunks, long imageChunks, long storedBytes, long badBytes, String stamp) {
}
