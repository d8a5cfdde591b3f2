package app.granary.server.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Storage;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.TestRuns;
import app.granary.server.queue.RunRecords;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;

/** A night that a person starts after some of its computers were there already. */
class NightQueueTest {
    private static final LocalDate NIGHT = LocalDate.of(2026, 11, 25);
    private static final Instant SIX = Instant.parse("2026-11-25T18:00:00Z");

    private final RunQueue queue = mock(RunQueue.class);
    private final Captures captures = new Captures(mock(ImageStore.class), queue, mock(RunRecords.class), mock(Preflights.class),
        mock(DisksOnRecord.class), mock(Images.class), mock(RunMail.class), mock(Journal.class));

    private static NewRun asked(UUID plan, String disk) {
        return NewRun.of(Run.Kind.CAPTURE, new NewRun.About("TRIPOD", disk, "system disk", "cairn", "CAIRN"), "TRIPOD system disk")
            .inNight(NIGHT, plan, SIX);
    }

    private static Captures.Planned row(UUID plan, String disk) {
        return new Captures.Planned(plan, "TRIPOD", disk, "system disk", "cairn", "CAIRN",
            new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED), false, "{computer}", Captures.Then.NOTHING, SIX);
    }

    @Test
    void whatIsBeingMadeIsNotMadeAgainAndWhatWaitsIsPlannedAnew() {
        UUID making = new UUID(1, 1);
        UUID waits = new UUID(1, 2);
        UUID others = new UUID(1, 3);
        Run running = TestRuns.running(asked(making, "tripod"), SIX);
        Run waiting = TestRuns.waiting(asked(waits, "theodolite"), SIX);
        when(queue.open()).thenReturn(List.of(running, waiting));
        when(queue.waiting()).thenReturn(List.of(waiting));

        assertEquals(Set.of(making, waits), captures.plansOf(NIGHT));
        assertEquals(Set.of(), captures.plansOf(NIGHT.plusDays(1)));
        assertEquals(2, captures.queueNight(NIGHT, List.of(row(making, "tripod"), row(waits, "theodolite"), row(others, "ledger")), "ada"));

        verify(queue).takeOut(waiting.id(), "The night was started again.");
        ArgumentCaptor<NewRun> added = ArgumentCaptor.forClass(NewRun.class);
        verify(queue, org.mockito.Mockito.times(2)).add(added.capture(), any(), any(), any(), any());
        assertEquals(List.of("theodolite", "ledger"), added.getAllValues().stream().map(each -> each.about().diskId()).toList());
    }
}
