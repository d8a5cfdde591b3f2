package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Held by whoever writes an image that has no name yet, so that nobody else carries it on or discards it: another run of this program, and
 * another program on any machine that sees the drive. A file of its own, since closing any channel to a locked file gives the whole
 * process's lock on it back (POSIX, fcntl(2)).
 */
public final class PartialLock implements Closeable {
    static final String ENDING = ".lock";
    private static final Set<Path> HELD = ConcurrentHashMap.newKeySet();

    private final Path file;
    private final FileChannel channel;

    private PartialLock(Path file, FileChannel channel) {
        this.file = file;
        this.channel = channel;
    }

    /** @throws app.granary.core.fault.FaultException when somebody is at work on it */
    public static PartialLock hold(Path partial) throws IOException {
        return tryHold(partial).orElseThrow(() -> Fault.of(Fault.Kind.FORBIDDEN, partial.toString(), partial.getFileName()
            + " is being written right now, by another run or another program. Stop it there first, or wait until it has ended.")
            .asException());
    }

    /** Whether somebody is at work on it now. A lock that nobody holds is removed. */
    public static boolean isHeld(Path partial) throws IOException {
        if (!Files.exists(of(partial))) {
            return false;
        }
        try (PartialLock free = tryHold(partial).orElse(null)) {
            return free == null;
        } catch (IOException readOnly) {
            return false; // nobody writes where nothing can be written
        }
    }

    private static Path of(Path partial) {
        return partial.resolveSibling(partial.getFileName() + ENDING);
    }

    private static Optional<PartialLock> tryHold(Path partial) throws IOException {
        Path file = of(partial).toAbsolutePath().normalize();
        if (!HELD.add(file)) {
            return Optional.empty();
        }
        FileChannel channel = null;
        try {
            channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            if (lock(channel)) {
                return Optional.of(new PartialLock(file, channel));
            }
            channel.close();
            HELD.remove(file);
            return Optional.empty();
        } catch (IOException | RuntimeException failed) {
            if (channel != null) {
                channel.close();
            }
            HELD.remove(file);
            throw failed;
        }
    }

    /** A file system without locks is no reason not to use it: this process keeps to its own list all the same. */
    private static boolean lock(FileChannel channel) {
        try {
            FileLock got = channel.tryLock();
            return got != null;
        } catch (OverlappingFileLockException mine) {
            return false;
        } catch (IOException noLocksThere) {
            return true;
        }
    }

    @Override
    public void close() throws IOException {
        try {
            Files.deleteIfExists(file);
        } catch (IOException gone) {
            // its drive was pulled; the file says nothing without a lock on it
        } finally {
            HELD.remove(file);
            channel.close();
        }
    }
}
