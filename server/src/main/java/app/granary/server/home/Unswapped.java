package app.granary.server.home;

import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/**
 * A database that was brought back, checked, and is to take the place of the one before. Two renames are two: what a fall of power leaves
 * between them is finished at the next start, or by the next command.
 */
public final class Unswapped {
    private static final String READY = "ready";

    private Unswapped() {
    }

    /** Says of a folder that all is in it: it may take the place from now on. */
    public static void mark(Path fresh) throws IOException {
        try (FileChannel mark = FileChannel.open(fresh.resolve(READY), StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
            mark.force(true);
        }
        Folders.sync(fresh);
    }

    /** Gives a folder that is ready the place, where that is free; else nothing. */
    public static void finish(Path home) throws IOException {
        Path fresh = home.resolve("db.partial");
        Path folder = home.resolve("db");
        if (Files.exists(fresh.resolve(READY)) && !Files.exists(folder)) {
            Files.move(fresh, folder, StandardCopyOption.ATOMIC_MOVE);
            Files.delete(folder.resolve(READY));
            Folders.sync(home.toAbsolutePath());
        }
    }
}
