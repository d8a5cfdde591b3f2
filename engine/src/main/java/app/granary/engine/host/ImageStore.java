package app.granary.engine.host;

import app.granary.core.destination.Destination;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/** The destinations of a host, and what lies on them. */
public interface ImageStore {
    /** Identity of the destination that is the folder Granary keeps for itself. */
    String OWN_FOLDER = "granary-folder";

    /** As they are now, in order of name. */
    List<Destination> destinations() throws IOException;

    /** A destination as the place where images lie; refused when it is not attached. */
    Shelf shelf(String destinationId) throws IOException;

    /** What an image says of itself. */
    ImageFacts facts(ImageAt image) throws IOException;

    /**
     * Captures and copies on a destination that did not come to their end, those that can be carried on first; empty when it is not
     * attached.
     */
    List<HostUnfinished> unfinished(String destinationId) throws IOException;

    /** Removes one of them. */
    void discard(String destinationId, String name) throws IOException;

    /**
     * Images in a folder of a destination and below it, whoever made them; one in the folder Granary keeps its images in has an empty
     * folder.
     *
     * @param folder relative to the destination, with slashes; an empty string for all of it
     */
    ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException;

    /** A file there of which nothing is told but its length and what a list says of its digest, for one that a person names. */
    ElsewhereImage kept(String destinationId, String folder, String name) throws IOException;

    /** Writes a small file onto a destination, replacing one of that name. */
    default void putFile(String destinationId, String folder, String name, InputStream content) throws IOException {
        shelf(destinationId).putFile(folder, name, content);
    }
}
