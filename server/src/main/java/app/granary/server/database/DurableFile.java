package app.granary.server.database;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.h2.store.fs.FilePath;
import org.h2.store.fs.FilePathWrapper;

/**
 * The database's file, each write of which is on the device when it returns (open(2), "O_DSYNC"). H2 writes a commit at once when its write
 * delay is off, but never waits for the device, so what a fall of power took would be gone although it was answered with success. A new one
 * can be read by its owner alone.
 */
public final class DurableFile extends FilePathWrapper {
    private static final String SCHEME = "durable";

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
            Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        }
        return getBase().open(mode.equals("rw") ? "rwd" : mode);
    }
}
