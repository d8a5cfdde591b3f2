package app.granary.server.image;

/** Gives back room on a destination without touching an image that is kept. */
public interface RoomMaker {
    /**
     * Empties of the destination's trash as much as is needed, the oldest first.
     *
     * @param bytes wanted back
     * @return bytes given back; less where the trash holds less
     */
    long makeRoom(String destinationId, long bytes);
}
