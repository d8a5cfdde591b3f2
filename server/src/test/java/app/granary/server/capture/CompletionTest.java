package app.granary.server.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.clearInvocations;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.verifyNoInteractions;
import static org.mockito.Mockito.when;

import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.plan.Afterwards;
import app.granary.core.plan.FolderPattern;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Host;
import app.granary.engine.host.Storage;
import app.granary.server.check.Checks;
import app.granary.server.journal.Journal;
import app.granary.server.mail.Outbox;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunEnds;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunWishes;
import app.granary.server.queue.TestRuns;
import app.granary.server.queue.TestWishes;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** What becomes of computers when their images are made, as their plans say. */
class CompletionTest {
    private static final Instant AT = Instant.parse("2026-11-24T19:00:00Z");
    private static final CaptureOrder OFF = CaptureOrder.of(new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED), "",
        new Captures.Then(Afterwards.OFF, FolderPattern.NONE, List.of()));

    private static NewRun of(String computer, String disk) {
        return NewRun.of(Run.Kind.CAPTURE, new NewRun.About(computer, disk, "disk", "p", "PEG-1"), "x");
    }

    private static RunEnds.Ended datum(Run.State state) {
        return new RunEnds.Ended(TestRuns.ended(of("DATUM", "d"), AT, state, AT.plusSeconds(720), "it ended"), OFF, "");
    }

    @Test
    void aComputerIsSwitchedOffOnlyAfterAnImageThatWasMade() throws IOException {
        Host host = mock(Host.class);
        Journal journal = mock(Journal.class);
        when(host.machine("d")).thenReturn("DATUM");
        RunQueue queue = mock(RunQueue.class);
        Completion completion = new Completion(host, journal, queue, TestWishes.none());
        completion.ended(datum(Run.State.FAILED));
        verify(host, never()).afterwards(any(), any());
        // the first image of a night switched off the machine that was to make the second
        Run second = TestRuns.waiting(of("DATUM", "d2"), AT);
        Run elsewhere = TestRuns.waiting(of("PLUMB", "d3"), AT);
        when(host.machine("d2")).thenReturn("DATUM");
        when(host.machine("d3")).thenReturn("PLUMB");
        when(queue.open()).thenReturn(List.of(second, elsewhere));
        completion.ended(datum(Run.State.DONE));
        verify(host, never()).afterwards(any(), any());
        when(queue.open()).thenReturn(List.of(elsewhere));
        completion.ended(new RunEnds.Ended(elsewhere, CaptureOrder.carryingOn("", List.of()), ""));
        verify(host).afterwards("d", Afterwards.OFF);
        clearInvocations(host, journal);
        completion.ended(datum(Run.State.DONE));
        verify(host).afterwards("d", Afterwards.OFF);
        verify(journal).add("ada", "afterwards", "DATUM", Journal.Result.DONE, "DATUM is switched off, as was asked for.");
        doThrow(Fault.of(Fault.Kind.DEVICE_FAILED, "d", "It could not be switched off. Do it by hand.").asException()).when(host)
            .afterwards(any(), any());
        completion.ended(datum(Run.State.DONE));
        verify(journal).add("ada", "afterwards", "DATUM", Journal.Result.FAILED, "It could not be switched off. Do it by hand.");
        assertTrue(OFF.storage().passphrase().isNone(), "no passphrase is written down");
    }

    /** A restore, a check or a copy switches off the machine that did it, when a person chose so while it ran. */
    @Test
    void whatIsChosenWhileItRunsHoldsForAnyWork() throws IOException {
        Host host = mock(Host.class);
        Journal journal = mock(Journal.class);
        RunQueue queue = mock(RunQueue.class);
        RunWishes wishes = TestWishes.none();
        Completion completion = new Completion(host, journal, queue, wishes);
        Run check = TestRuns.waiting(NewRun.of(Run.Kind.CHECK, new NewRun.About("DATUM", "d", "disk", "p", "PEG-1"), "x"), AT);
        when(queue.open()).thenReturn(List.of(check));
        completion.choose(check.id(), Afterwards.OFF, "ada");
        assertEquals(Afterwards.OFF, completion.of(check));
        completion.choose(check.id(), Afterwards.NOTHING, "ada");
        completion.choose(check.id(), Afterwards.RESTART, "ada");
        when(queue.open()).thenReturn(List.of());
        Run done = TestRuns.ended(NewRun.of(Run.Kind.CHECK, new NewRun.About("DATUM", "d", "disk", "p", "PEG-1"), "x").as(check.id()), AT,
            Run.State.DONE, AT.plusSeconds(9), "it ended");
        // Granary was ended meanwhile, and the choice was lost
        completion = new Completion(host, journal, queue, wishes);
        completion.ended(new RunEnds.Ended(done, Checks.order(ProofLevel.SOUND), ""));
        verify(host).afterwards("", Afterwards.RESTART);
        verify(journal).add("ada", "afterwards", "The computer Granary runs on", Journal.Result.DONE,
            "The computer Granary runs on is started again, as was asked for.");
        Completion later = completion;
        assertThrows(Refused.class, () -> later.choose(check.id(), Afterwards.OFF, "ada"), "it has ended");
    }

    /** Who asked for one image by hand, and whoever was added while it ran; a night's images have one mail together. */
    @Test
    void aRunByItselfTellsHowItEnded() throws IOException {
        RunQueue queue = mock(RunQueue.class);
        Outbox outbox = mock(Outbox.class);
        RunMail mail = new RunMail(queue, TestWishes.none(), outbox, mock(Journal.class));
        CaptureOrder order = CaptureOrder.of(new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED), "",
            new Captures.Then(Afterwards.NOTHING, FolderPattern.NONE, List.of("ada@office.example")));
        Run waiting = TestRuns.waiting(of("DATUM", "d"), AT);
        when(queue.open()).thenReturn(List.of(waiting));
        when(queue.order(waiting)).thenReturn(Optional.of(order));
        assertEquals(List.of("ada@office.example"), mail.of(waiting));
        mail.ended(new RunEnds.Ended(TestRuns.ended(of("DATUM", "d").as(waiting.id()), AT, Run.State.FAILED, AT.plusSeconds(720),
            "The drive was pulled."), order, ""));
        verify(outbox).send(List.of("ada@office.example"), "FAILED: image of DATUM disk",
            "The drive was pulled.\n\nIt took 12 min.\nBegun by ada.\n");
        mail.choose(waiting.id(), List.of(), "eve");
        clearInvocations(outbox);
        mail.ended(datum(Run.State.DONE, order, waiting.id()));
        mail.ended(new RunEnds.Ended(TestRuns.ended(of("DATUM", "d").inNight(LocalDate.of(2026, 11, 24), null, null), AT, Run.State.DONE,
            AT.plusSeconds(9), "it ended"), order, ""));
        verifyNoInteractions(outbox);
    }

    private static RunEnds.Ended datum(Run.State state, CaptureOrder order, UUID id) {
        return new RunEnds.Ended(TestRuns.ended(of("DATUM", "d").as(id), AT, state, AT.plusSeconds(720), "it ended"), order, "");
    }
}
