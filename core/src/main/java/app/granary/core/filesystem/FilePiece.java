package app.granary.core.filesystem;

/**
 * A run of a file's bytes.
 *
 * @param atBytes     where it lies on the disk; {@link #ZEROS} for what is nowhere and reads as zeros
 * @param lengthBytes more than 0
 */
public record FilePiece(long atBytes, long lengthBytes) {
    public static final long ZEROS = -1;
}
