package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.image.ImageName;
import app.granary.engine.media.Tools;
import app.granary.engine.remote.RemoteFileSystem;
import app.granary.engine.remote.ServedFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Work that begins and ends while others look whether somebody is at work: nobody disturbs it, and it is never taken for unfinished. */
class LockedByTwoTest {
    private static final int TIMES = 300;
    /** As another program of this machine looks: it holds the lock for a moment, shared (POSIX, fcntl(2), from memory). */
    private static final String LOOKS = "import fcntl\nwhile True:\n try:\n  f=open('images/night.partial.lock','r+')\n"
        + "  fcntl.lockf(f,fcntl.LOCK_SH|fcntl.LOCK_NB)\n  f.close()\n except OSError: pass\n";

    @TempDir
    Path folder;

    private Path images() throws IOException {
        return Files.createDirectories(folder.resolve("images"));
    }

    private ServedFolder served() throws IOException {
        return new ServedFolder(Files.createDirectories(images()).getParent(), "images", "night", Optional.of(() -> { }));
    }

    private static void work(Path images) throws IOException {
        Path partial = images.resolve("night.partial");
        try (PartialLock lock = PartialLock.hold(partial)) {
            Files.createDirectory(partial);
            Files.delete(partial);
        }
    }

    /** In an office a page that lists what is unfinished removed the lock a computer was just making; its capture failed at once. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void whoLooksDisturbsNobody(boolean fromAnotherMachine) throws Exception {
        Path here = images();
        AtomicBoolean ended = new AtomicBoolean();
        AtomicInteger seen = new AtomicInteger();
        CompletableFuture<Void> looking = CompletableFuture.runAsync(() -> {
            while (!ended.get()) {
                try {
                    seen.addAndGet(Unfinished.remains(here).size() + Unfinished.in(here).size());
                } catch (IOException failed) {
                    throw new java.io.UncheckedIOException(failed);
                }
            }
        }, work -> new Thread(work, "looks").start());
        Process other = new ProcessBuilder("python3", "-c", LOOKS).directory(folder.toFile()).start();
        try (ServedFolder served = served()) {
            Path there = fromAnotherMachine ? new RemoteFileSystem(served, "the office").root().resolve("images") : here;
            for (int i = 0; i < TIMES; i++) {
                work(there);
            }
        } finally {
            ended.set(true);
            other.destroyForcibly().waitFor();
        }
        looking.join();
        assertEquals(0, seen.get(), "what is under way was taken for unfinished");
        assertEquals("", Tools.run(folder, "ls -A images"));
    }

    /** What one holds for a computer, nobody of the office's own program has, nor any other program, however often somebody looks. */
    @Test
    void whatIsHeldForAnotherMachineIsHeldHere() throws IOException {
        Path partial = images().resolve("night.partial");
        try (ServedFolder served = served()) {
            Path there = new RemoteFileSystem(served, "the office").root().resolve("images/night.partial");
            try (PartialLock lock = PartialLock.hold(there)) {
                Files.createDirectory(partial);
                assertFalse(PartialLock.isLeft(partial));
                assertThrows(FaultException.class, () -> PartialLock.hold(partial));
                assertThrows(FaultException.class, () -> Unfinished.discard(images(), ImageName.parse("night")));
                assertFalse(PartialLock.isLeft(there));
                assertEquals("no\n", Tools.run(folder, "python3 -c \"import fcntl; fcntl.lockf(open('images/night.partial.lock','r+'), "
                    + "fcntl.LOCK_EX|fcntl.LOCK_NB)\" 2> /dev/null || echo no"));
            }
            assertTrue(PartialLock.isLeft(partial));
            assertTrue(PartialLock.isLeft(there));
            PartialLock.hold(partial).close();
        }
    }
}
