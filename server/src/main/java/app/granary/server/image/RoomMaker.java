package app.granary.server.image;

/** Gives back room on a destination without touching an image that is kept. */
public interface RoomMaker {
    /** Bytes that lie in the destination's trash and can be given back; 0 for none. */
    long trashBytes(String destinationId);

    /**
     * Empties of the destination's trash as much as is needed, the oldest first, for good. When the trash holds less than is needed nothing
     * is emptied: it would be lost and help nobody.
     *
     * @param bytes wanted back
     * @return bytes given back; 0 when there was not enough, less than wanted only when something could not be removed
     */
    long makeRoom(String destinationId, long bytes);
}
