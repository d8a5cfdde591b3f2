package app.granary.engine.host;

import java.io.IOException;
import java.nio.file.Path;

/** The destinations of this machine as folders, for whoever serves them to a computer somewhere else. */
public interface LocalFolders {
    /**
     * @param root   of the destination
     * @param images the folder in it that Granary keeps its images in, relative to it; empty for the root itself
     */
    record Folder(Path root, String images) {
        /** Where images are written. */
        public Path imagesPath() {
            return root.resolve(images);
        }
    }

    /** @throws app.granary.core.fault.FaultException when the destination is not attached */
    Folder folder(String destinationId) throws IOException;

    /** @throws app.granary.core.fault.FaultException of kind NO_ROOM when what Granary keeps for itself of its drive is all there is */
    void requireRoom(Folder folder) throws IOException;
}
