package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.media.OncePerBuild;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.HostImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Images of other days are bags a person can check with the system's own tools, and share their bytes only until one of them is changed.
 */
@Tag("large")
class PastImagesTest {
    private static final Instant THEN = Instant.parse("2026-08-25T18:30:00Z");

    @TempDir
    private Path home;
    private MovedClock clock;
    private SimulatedOffice office;
    private PastWork past;

    @BeforeEach
    void office() throws IOException {
        clock = new MovedClock(Clock.systemUTC(), Optional.of(Instant.parse("2026-11-24T09:00:00Z")));
        OncePerBuild.office(home);
        office = new SimulatedOffice(home, clock, 1000);
        past = office.work().orElseThrow();
    }

    private long free(String drive) throws IOException {
        return office.store().destinations().stream().filter(d ->
            d.id().equals(drive)).findFirst().map(Destination::freeBytes).orElseThrow();
    }

    private Path bag(String drive, String name) {
        return home.resolve("drives").resolve(drive).resolve(name);
    }

    /** In the folder, as the format's document says: {@code sha256sum -c manifest-sha256.txt}. */
    private static int sha256sum(Path bag, String manifest) throws IOException, InterruptedException {
        return new ProcessBuilder("sha256sum", "--status", "-c", manifest).directory(bag.toFile()).start().waitFor();
    }

    @Test
    void anImageOfAnotherDayIsAWholeBagWithItsOwnDate() throws Exception {
        long before = free("cairn");
        past.moveTo(THEN);
        HostImage made = past.image("gnomon", "cairn", "GNOMON-past");
        past.moveTo(THEN.plus(Duration.ofDays(30)));
        past.image("gnomon", "cairn", "GNOMON-later");
        past.endPast();
        assertTrue(Duration.between(Instant.parse("2026-11-24T09:00:00Z"), clock.instant()).abs().toMinutes() < 5,
            "the clock goes on from where it was");
        for (String manifest : new String[] {"manifest-sha256.txt", "tagmanifest-sha256.txt"}) {
            assertEquals(0, sha256sum(bag("cairn", "GNOMON-past"), manifest), manifest);
            assertEquals(0, sha256sum(bag("cairn", "GNOMON-later"), manifest), manifest);
        }
        assertTrue(Files.readString(bag("cairn", "GNOMON-past").resolve("bag-info.txt")).contains("Bagging-Date: 2026-08-25"));
        assertTrue(Files.readString(bag("cairn", "GNOMON-later").resolve("data/image.json")).contains("2026-09-24T18:30:00Z"));
        assertTrue(made.storedBytes() > 0 && made.check().ok());
        assertEquals(before, free("cairn"), "what lies there was there all along");
        assertTrue(office.imaging().check(new ImageAt("cairn", "", "GNOMON-past", Passphrase.NONE), ProofLevel.READABLE, Watch.NONE).ok());
    }

    @Test
    void aTurnedBitIsFoundInThatImageAlone() throws Exception {
        past.moveTo(THEN);
        past.image("gnomon", "cairn", "GNOMON-past");
        past.copy("GNOMON-past", "cairn", "peg-2");
        past.spoil("peg-2", "GNOMON-past");
        assertFalse(past.check("peg-2", "GNOMON-past").ok());
        assertTrue(past.check("cairn", "GNOMON-past").ok());
        assertEquals(1, sha256sum(bag("peg-2", "GNOMON-past"), "manifest-sha256.txt"));
        assertEquals(0, sha256sum(bag("cairn", "GNOMON-past"), "manifest-sha256.txt"));
    }

    @Test
    void anOfficeUnderTheRealClockHasNoPastToMake() throws IOException {
        assertTrue(new SimulatedOffice(home, Clock.fixed(THEN, ZoneOffset.UTC), 1).work().isEmpty());
    }
}
