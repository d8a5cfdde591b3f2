package app.granary.server.rehearsal;

import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
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
import app.granary.engine.host.ImageStore;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeChoices;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import org.springframework.jdbc.core.simple.JdbcClient;

class RehearsalsTest {
    private static final Instant NOW = Instant.parse("2026-11-25T22:00:00Z");

    private final RehearsalRepository repository = mock(RehearsalRepository.class);
    private final Images images = mock(Images.class);
    private final ImageStore store = mock(ImageStore.class);
    private final RunQueue queue = mock(RunQueue.class);
    private final OfficeChoices choices = mock(OfficeChoices.class);
    private final JdbcClient database = mock(JdbcClient.class, org.mockito.Mockito.RETURNS_DEEP_STUBS);
    private final UUID newest = UUID.randomUUID();
    private Rehearsals rehearsals;

    @BeforeEach
    void anOfficeThatIsClosed() throws IOException {
        rehearsals = new Rehearsals(repository, images, store, queue, new GranarySettings(Path.of("target"),
            true, 1, false, null, null, Set.of(), "", false, 0, Set.of(), List.of()), choices, database,
            mock(Journal.class), Clock.fixed(NOW, ZoneOffset.UTC));
        when(repository.save(any())).thenAnswer(call -> call.getArgument(0));
        when(store.destinations()).thenReturn(
            List.of(new Destination("cairn", "CAIRN", "network", true, true, 1000, 500, 0, OptionalLong.empty(), 100, Set.of("CAIRN")),
                new Destination("outpost", "OUTPOST", "off site", false, true, 1000, 500, 0, OptionalLong.empty(), 100, Set.of("OP"))));
        when(images.shelved(any())).thenReturn(new Images.Shelved("one", "TRIPOD", "tripod", "system disk", "s", "cairn", "CAIRN", 100,
            false, "", Images.Format.GRANARY, UUID.randomUUID(), true));
    }

    private void every(int days) {
        when(database.sql(anyString()).query(Integer.class).single()).thenReturn(days);
    }

    private static Standing sound() {
        return Standing.of(List.of(new Evidence(ProofLevel.READABLE, true, NOW, "ada", "cairn", 1)), 90);
    }

    private Images.Standings image(UUID id, String destination, boolean encrypted) {
        return new Images.Standings(id, "one", "TRIPOD", "system disk", "tripod", destination, destination, NOW.minusSeconds(86_400),
            encrypted, 90, UUID.randomUUID(), false, sound(), 100, app.granary.core.image.Lacks.NOTHING);
    }

    private void shelf(Images.Standings... newestFirst) {
        when(images.standingsByDisk()).thenReturn(Map.of("tripod", List.of(newestFirst)));
    }

    @Test
    void theNewestSoundImageAtHandIsRehearsedOnceInTheTime() throws IOException {
        every(30);
        shelf(image(UUID.randomUUID(), "outpost", false), image(UUID.randomUUID(), "cairn", true), image(newest, "cairn", false));
        rehearsals.look();
        ArgumentCaptor<NewRun> run = ArgumentCaptor.forClass(NewRun.class);
        verify(queue).add(run.capture(), any(RehearsalOrder.class), eq(Passphrase.NONE), eq("Granary"), any());
        assertTrue(run.getValue().copyId().equals(Optional.of(newest)) && run.getValue().kind() == Run.Kind.REHEARSAL);
    }

    @Test
    void nothingIsRehearsedTwiceNorWhilePeopleWorkNorWhenSwitchedOff() throws IOException {
        shelf(image(newest, "cairn", false));
        every(30);
        when(repository.findByImageIdOrderByAskedAtDesc(newest))
            .thenReturn(List.of(new Rehearsal(newest, NOW.minusSeconds(29L * 86_400), "Granary")));
        rehearsals.look();
        when(repository.findByImageIdOrderByAskedAtDesc(newest)).thenReturn(List.of());
        when(choices.openNow()).thenReturn(true);
        rehearsals.look();
        when(choices.openNow()).thenReturn(false);
        every(0);
        rehearsals.look();
        verify(queue, never()).add(any(), any(), any(), any(), any());
    }

    @Test
    void whatCannotBeRehearsedSaysWhy() {
        when(images.shelved(newest)).thenReturn(new Images.Shelved("raw", "TRIPOD", "tripod", "d", "s", "cairn", "CAIRN", 1, false, "",
            Images.Format.OTHER, UUID.randomUUID(), true));
        assertTrue(assertThrows(Refused.class, () -> rehearsals.begin(newest, Passphrase.NONE, "ada")).getMessage()
            .contains("made with other tools"));
        when(images.shelved(newest)).thenReturn(new Images.Shelved("secret", "TRIPOD", "tripod", "d", "s", "cairn", "CAIRN", 1, true, "",
            Images.Format.GRANARY, UUID.randomUUID(), true));
        assertTrue(assertThrows(Refused.class, () -> rehearsals.begin(newest, Passphrase.NONE, "ada")).getMessage()
            .contains("Enter its passphrase"));
    }
}
