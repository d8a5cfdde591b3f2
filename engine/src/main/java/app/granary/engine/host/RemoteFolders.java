package app.granary.engine.host;

import java.nio.file.Path;
import java.util.Optional;

/** Destinations that lie on another machine, and can be used here while that one serves them. */
public interface RemoteFolders {
    /** There are none. */
    RemoteFolders NONE = id -> Optional.empty();

    /** @param images the folder Granary keeps its images in there, which exists */
    record Folder(Path root, Path images) {
    }

    /** Empty when the destination is none of them. */
    Optional<Folder> folder(String destinationId);
}
