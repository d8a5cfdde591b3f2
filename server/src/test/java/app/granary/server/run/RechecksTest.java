package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.destination.Destination;
import app.granary.core.proof.Evidence;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.check.Checks;
import app.granary.server.queue.RunQueue;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class RechecksTest {
    private static final Instant NOW = Instant.parse("2026-11-25T08:00:00Z");

    private final Images images = mock(Images.class);
    private final Destinations destinations = mock(Destinations.class);
    private final RunQueue queue = mock(RunQueue.class);
    private final Checks checks = mock(Checks.class);
    private final Rechecks rechecks = new Rechecks(images, destinations, queue, checks, Clock.fixed(NOW, ZoneOffset.UTC));

    private Images.Standings image(String disk, String drive, int daysAgo, boolean encrypted, boolean paper) {
        Standing standing = Standing
            .of(List.of(new Evidence(ProofLevel.READABLE, true, NOW.minus(Duration.ofDays(daysAgo)), "ada", drive, 1)), 90);
        UUID id = UUID.randomUUID();
        when(images.shelved(id)).thenReturn(new Images.Shelved(disk, "DATUM", disk, "disk 1", "s", drive, drive, 9, encrypted, "",
            Images.Format.GRANARY, new UUID(0, 1), true));
        return new Images.Standings(id, disk, "DATUM", "disk 1", disk, drive, drive, NOW.minus(Duration.ofDays(daysAgo)), encrypted, 90,
            UUID.randomUUID(), paper, standing, 9, app.granary.core.image.Lacks.NOTHING);
    }

    private static Destination drive(String id, boolean attached) {
        return new Destination(id, id, "", attached, true, 100, 50, 0, OptionalLong.empty(), 1, Set.of(id));
    }

    /** What is stale on an attached drive is asked for, two at a time, giving way; encrypted ones as far as that goes without a person. */
    @Test
    void staleOnesOnAttachedDrivesAreAskedForAtLowPriority() throws IOException {
        Images.Standings older = image("a", "peg", 200, false, false);
        Images.Standings secret = image("b", "peg", 150, true, false);
        Images.Standings third = image("c", "peg", 100, false, false);
        Images.Standings fresh = image("d", "peg", 10, false, false);
        Images.Standings away = image("e", "outpost", 300, false, false);
        Images.Standings paper = image("f", "peg", 400, false, true);
        when(images.standings()).thenReturn(List.of(fresh, third, secret, older, away, paper));
        when(destinations.now()).thenReturn(List.of(drive("peg", true), drive("outpost", false)));
        rechecks.ask();
        verify(checks).begin(older.id(), ProofLevel.READABLE, Passphrase.NONE, true, Rechecks.BY);
        verify(checks).begin(secret.id(), ProofLevel.SOUND, Passphrase.NONE, true, Rechecks.BY);
        for (Images.Standings other : List.of(third, fresh, away, paper)) {
            verify(checks, never()).begin(eq(other.id()), any(), any(), anyBoolean(), anyString());
        }
        assertEquals(3, rechecks.due(Set.of("peg")).size());
        assertFalse(rechecks.due(Set.of("outpost")).isEmpty());
    }

    @Test
    void aDriveThatCannotBeAskedIsNoEndOfIt() throws IOException {
        when(destinations.now()).thenThrow(new IOException("gone"));
        rechecks.ask();
        verify(checks, never()).begin(any(), any(), any(), anyBoolean(), anyString());
    }
}
