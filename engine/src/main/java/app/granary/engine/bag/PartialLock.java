package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;

/**
 * Held by whoever writes an image that has no name yet, so that nobody else carries it on or discards it: another run of this program, and
 * another program on any machine that sees the drive.
 */
public final class PartialLock implements Closeable {
    static final String ENDING = ".lock";

    private final LockFile lock;

    private PartialLock(LockFile lock) {
        this.lock = lock;
    }

    /** @throws app.granary.core.fault.FaultException when somebody is at work on it */
    public static PartialLock hold(Path partial) throws IOException {
        return new PartialLock(LockFile.take(of(partial)).orElseThrow(() -> Fault.of(Fault.Kind.FORBIDDEN, partial.toString(),
            partial.getFileName() + " is being written right now, by another run or another program. Stop it there first, or wait until it "
                + "has ended.").asException()));
    }

    /** Whether it is there, or its log, and nobody is at work on it. */
    static boolean isLeft(Path partial) throws IOException {
        return LockFile.isFree(of(partial), () -> Files.isDirectory(partial, LinkOption.NOFOLLOW_LINKS)
            || Files.exists(CaptureLog.of(partial), LinkOption.NOFOLLOW_LINKS));
    }

    private static Path of(Path partial) {
        return partial.resolveSibling(partial.getFileName() + ENDING);
    }

    @Override
    public void close() throws IOException {
        lock.remove();
    }
}
