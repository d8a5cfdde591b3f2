package app.granary.engine.host;

import app.granary.engine.source.Folders;
import app.granary.engine.source.StaleMounts;
import java.io.IOException;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Folders for scratch files, on drives that other machines may use too: one for each machine, so that what a fall of power left there is
 * told from another machine's work.
 *
 * @param machine the name of this one
 */
record ScratchFolders(String machine) {
    private static final String NAME = "granary-scratch";

    private Path own(Path root) {
        return root.resolve(NAME).resolve(machine.replaceAll("[^A-Za-z0-9-]", "-"));
    }

    Path in(Path root) throws IOException {
        return Files.createDirectories(own(root));
    }

    /** Removes what this machine left; called when none of its work is under way. What cannot be removed now is removed another time. */
    void sweep(List<Path> roots) {
        for (Path root : roots) {
            try {
                StaleMounts.release(own(root));
                Folders.delete(own(root));
                Files.deleteIfExists(root.resolve(NAME));
            } catch (DirectoryNotEmptyException another) {
                continue; // another machine's
            } catch (IOException readOnlyNow) {
                continue;
            }
        }
    }
}
