package app.granary.engine.bag;

/**
 * One frame of an image as it was read, with its raw bytes when it could be decoded.
 *
 * @param chunk       number of the first chunk it stands for
 * @param count       how many equal frames in a row it stands for
 * @param part        index of the part it begins in
 * @param offsetBytes where in that part it begins
 * @param storedBytes length of the frames together
 * @param raw         buffer whose first {@code rawBytes} are the chunk; reused after the handler returns
 * @param rawBytes    length of the chunk
 * @param fault       why it is not sound, or an empty string
 */
public record Frame(long chunk, long count, int part, long offsetBytes, long storedBytes, byte[] raw, int rawBytes, String fault) {
    public boolean sound() {
        return fault.isEmpty();
    }
}
