package app.granary.engine.bag;

import app.granary.engine.progress.Rest;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentMap;
import java.util.function.BooleanSupplier;

/**
 * A file that one holds, in this program or another, on any machine that sees the drive. In this program its files are opened here alone,
 * one after the other: closing any channel to a locked file gives the whole process's lock on it back (POSIX, fcntl(2)). Others may look
 * whether it is held at any moment; looking is told from holding, since it ends at once.
 */
public final class LockFile implements Closeable {
    /** Longer than anybody's look takes. */
    private static final int LOOKS = 50;
    private static final long LOOK_MILLIS = 10;
    private static final Set<Path> HELD = ConcurrentHashMap.newKeySet();
    /** Of the files that somebody is at now. Each file has its own: one on a drive that does not answer holds up no other. */
    private static final ConcurrentMap<Path, Turn> TURNS = new ConcurrentHashMap<>();

    private final Path file;
    private final FileChannel channel;

    private LockFile(Path file, FileChannel channel) {
        this.file = file;
        this.channel = channel;
    }

    private static final class Turn {
        /** Changed by the map alone, one after the other. */
        private int waiting;
    }

    private interface Doing<T> {
        T now() throws IOException;
    }

    /** One path for a file, whichever way it is reached. Its folder exists. */
    private static Path known(Path file) throws IOException {
        return file.toAbsolutePath().getParent().toRealPath().resolve(file.getFileName().toString());
    }

    private static <T> T inTurn(Path known, Doing<T> does) throws IOException {
        Turn turn = TURNS.compute(known, (file, there) -> {
            Turn mine = there == null ? new Turn() : there;
            mine.waiting++;
            return mine;
        });
        try {
            synchronized (turn) {
                return does.now();
            }
        } finally {
            TURNS.computeIfPresent(known, (file, there) -> --there.waiting == 0 ? null : there);
        }
    }

    /**
     * Waits for those who only look.
     *
     * @return empty when somebody holds it
     */
    public static Optional<LockFile> take(Path file) throws IOException {
        Optional<LockFile> got = takeNow(file);
        for (int i = 0; i < LOOKS && got.isEmpty() && !isOurs(file); i++) {
            Rest.millis(LOOK_MILLIS);
            got = takeNow(file);
        }
        return got;
    }

    /** @return empty when somebody holds it, or looks whether anybody does */
    public static Optional<LockFile> takeNow(Path file) throws IOException {
        Path known = known(file);
        return inTurn(known, () -> {
            if (HELD.contains(known)) {
                return Optional.empty();
            }
            Optional<LockFile> got = opened(known);
            got.ifPresent(each -> HELD.add(known));
            return got;
        });
    }

    private static Optional<LockFile> opened(Path known) throws IOException {
        FileChannel channel = null;
        boolean got = false;
        try {
            channel = FileChannel.open(known, StandardOpenOption.CREATE, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS);
            Object made = identity(known);
            // whoever held it removed it since it was opened: what is locked then is a file without a name
            got = isLocked(channel, false) && Objects.equals(made, identity(known));
            return got ? Optional.of(new LockFile(known, channel)) : Optional.empty();
        } catch (NoSuchFileException removed) {
            if (!Files.isDirectory(known.getParent())) {
                throw removed;
            }
            return Optional.empty();
        } finally {
            if (channel != null && !got) {
                channel.close();
            }
        }
    }

    /** What tells a file from another that has its name later; the same for all where the file system does not know. */
    private static Object identity(Path known) throws IOException {
        return Optional.ofNullable(Files.readAttributes(known, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS).fileKey());
    }

    /** A file system without locks is no reason not to use it: this process keeps to its own list all the same. */
    private static boolean isLocked(FileChannel channel, boolean shared) {
        try {
            return channel.tryLock(0, Long.MAX_VALUE, shared) != null;
        } catch (OverlappingFileLockException mine) {
            return false;
        } catch (IOException noLocksThere) {
            return true;
        }
    }

    /** Whether this program holds it. */
    public static boolean isOurs(Path file) throws IOException {
        Path known = known(file);
        return inTurn(known, () -> HELD.contains(known));
    }

    /**
     * Whether nobody holds it and something else is so, both at one moment: who begins or ends meanwhile waits. Nothing is made or removed.
     *
     * @param besides must not take or give back such a file
     */
    static boolean isFree(Path file, BooleanSupplier besides) throws IOException {
        if (!Files.isDirectory(file.toAbsolutePath().getParent())) {
            return besides.getAsBoolean();
        }
        Path known = known(file);
        return inTurn(known, () -> !HELD.contains(known) && looksFree(known, besides));
    }

    private static boolean looksFree(Path known, BooleanSupplier besides) {
        try (FileChannel channel = FileChannel.open(known, StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS)) {
            return isLocked(channel, true) && besides.getAsBoolean();
        } catch (IOException noneOrUnreadable) {
            return besides.getAsBoolean();
        }
    }

    /** Removes it if nobody holds it, where that can be done. */
    static void sweep(Path file) throws IOException {
        Path known = known(file);
        inTurn(known, () -> { // nobody of this program sees it held meanwhile
            try (LockFile free = takeNow(known).orElse(null)) {
                return free != null && Files.deleteIfExists(known);
            } catch (IOException cannotBeWritten) {
                return false; // nobody holds what nobody can write
            }
        });
    }

    /** Gives it back, and takes its file away first: it says nothing when nobody holds it. */
    void remove() throws IOException {
        try {
            Files.deleteIfExists(file);
        } catch (IOException gone) {
            // its drive was pulled
        } finally {
            close();
        }
    }

    /** Gives it back; its file stays. */
    @Override
    public void close() throws IOException {
        inTurn(file, () -> {
            HELD.remove(file); // also where closing fails: its drive was pulled
            channel.close();
            return true;
        });
    }
}
