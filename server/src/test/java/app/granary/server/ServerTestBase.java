package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.engine.media.OncePerBuild;
import java.nio.file.Files;
import java.nio.file.Path;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.concurrent.Callable;
import org.junit.jupiter.api.Tag;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/**
 * The whole server over the simulated office, in a folder of its own, at a pace that tests need not wait for. Nothing is promised to
 * tonight by itself: whether there is a night to come depends on the hour the tests run at. Drives are not held against the database by
 * themselves: tests move what lies on them.
 */
@Tag("large")
@SpringBootTest(properties = {"granary.demo=true", "granary.pace=1000", "springdoc.api-docs.enabled=true",
    "granary.promised-after=86400000", "granary.reconciled-after=P1D"})
@AutoConfigureMockMvc
public abstract class ServerTestBase {
    @DynamicPropertySource
    static void home(DynamicPropertyRegistry registry) {
        registry.add("granary.home", () -> HOME.toString());
    }

    private static final Path HOME = newHome();

    private static Path newHome() {
        try {
            Path home = Files.createTempDirectory(Path.of("target"), "home").toAbsolutePath();
            OncePerBuild.office(home.resolve("office"));
            Runtime.getRuntime()
                .addShutdownHook(new Thread(() -> org.springframework.util.FileSystemUtils.deleteRecursively(home.toFile())));
            return home;
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** What follows the end of a run comes a moment after it has ended. */
    protected static void assertSoon(String expected, Callable<String> look) throws Exception {
        Instant latest = Instant.now().plusSeconds(20);
        while (!look.call().equals(expected) && Instant.now().isBefore(latest)) {
            Thread.sleep(50);
        }
        assertEquals(expected, look.call());
    }
}
