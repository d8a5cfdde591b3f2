package app.granary.engine.source;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** What must be done to folders so that a rename survives a power cut. */
public final class Folders {
    private Folders() {
    }

    /** Forces a folder's entries to the device; where a file system cannot do that, the rename is all there is. */
    public static void sync(Path folder) throws IOException {
        try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
            channel.force(true);
        } catch (UnsupportedOperationException cannot) {
            return;
        }
    }

    /** Lengths of all regular files in a folder and below it, together; 0 when it is not there. */
    public static long bytes(Path folder) throws IOException {
        if (!Files.isDirectory(folder, java.nio.file.LinkOption.NOFOLLOW_LINKS)) {
            return 0;
        }
        long sum = 0;
        List<Path> all;
        try (Stream<Path> files = Files.walk(folder)) {
            all = files.filter(Files::isRegularFile).toList();
        }
        for (Path file : all) {
            try {
                sum += Files.size(file);
            } catch (java.nio.file.NoSuchFileException goneMeanwhile) {
                continue;
            }
        }
        return sum;
    }

    /** Removes a folder and all in it; symbolic links are removed, never followed. */
    public static void delete(Path folder) throws IOException {
        if (!Files.exists(folder, java.nio.file.LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        List<Path> all;
        try (Stream<Path> walk = Files.walk(folder)) {
            all = walk.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path path : all) {
            Files.deleteIfExists(path);
        }
    }
}
