package app.granary.server.database;

import app.granary.server.home.Private;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.h2.store.fs.FilePath;
import org.h2.store.fs.FilePathWrapper;

/**
 * The database's file, each write of which is on the device when it returns (open(2), "O_DSYNC"). H2 writes a commit at once when its write
 * delay is off, but never waits for the device, so what a fall of power took would be gone although it was answered with success. A new one
 * can be read by its owner alone.
 */
public final class DurableFile extends FilePathWrapper {
    private static final String SCHEME = "durable";
    private static final Set<Opened> OPEN = ConcurrentHashMap.newKeySet();

    private record Opened(Path file, FileChannel channel) {
    }

    /** Lets a database be named as {@code jdbc:h2:durable:PATH}; more than once does no harm. */
    static void register() {
        FilePath.register(new DurableFile());
    }

    @Override
    public String getScheme() {
        return SCHEME;
    }

    @Override
    public FileChannel open(String mode) throws IOException {
        Path file = Path.of(getBase().toString());
        if (mode.equals("rw") && !Files.exists(file)) {
            Files.createFile(file, Private.file());
        }
        FileChannel channel = mode.equals("rw") ? new SteppedFile(file) : getBase().open(mode);
        OPEN.removeIf(each -> !each.channel.isOpen());
        OPEN.add(new Opened(file.toAbsolutePath(), channel));
        return channel;
    }

    /**
     * Of a database that failed at a write and cannot close its file itself: its lock would keep the file from being opened again until
     * Granary ends.
     */
    static void closeBelow(Path folder) {
        for (Opened each : OPEN) {
            if (each.file.startsWith(folder.toAbsolutePath()) && each.channel.isOpen()) {
                try {
                    each.channel.close();
                } catch (IOException closed) {
                    // it is closed all the same
                }
            }
        }
    }
}
