package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunRecords;
import app.granary.server.queue.TestRuns;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class TroublesTest {
    private static final Instant AT = Instant.parse("2026-11-25T08:00:00Z");

    private final RunQueue queue = mock(RunQueue.class);
    private final RunRecords records = mock(RunRecords.class);
    private final Troubles troubles = new Troubles(queue, records);

    private static NewRun of(String computer, Run.Kind kind, String disk, String name) {
        return NewRun.of(kind, new NewRun.About(computer, disk, disk, "p", "PEG-1"), name);
    }

    private static Run capture(String disk, Run.State state, int minute) {
        Instant at = AT.plusSeconds(60L * minute);
        return TestRuns.ended(of("DATUM", Run.Kind.CAPTURE, disk, "x-" + minute), at, state, at.plusSeconds(30),
            state == Run.State.DONE ? "made" : "PEG-1 became full.");
    }

    private static Run check(String sentence) {
        return TestRuns.ended(of("DATUM", Run.Kind.CHECK, "d", "x"), AT.plusSeconds(10), Run.State.FAILED, AT.plusSeconds(20), sentence);
    }

    private List<String> told(Run... newestFirst) {
        when(records.newest(anyInt())).thenReturn(List.of(newestFirst));
        return troubles.since(AT.minusSeconds(3600)).stream().map(t -> t.subject() + ": " + t.outcome()).toList();
    }

    @Test
    void aFailureIsToldOnceUntilItIsMadeGood() {
        assertEquals(List.of("DATUM a: PEG-1 became full."), told(capture("a", Run.State.FAILED, 9), capture("a", Run.State.FAILED, 5)));
        assertEquals(List.of(), told(capture("a", Run.State.DONE, 9), capture("a", Run.State.FAILED, 5)));
        assertEquals(List.of("DATUM a: PEG-1 became full."), told(capture("a", Run.State.FAILED, 9), capture("a", Run.State.DONE, 5)),
            "what failed after it was made is told");
        assertEquals(List.of("DATUM b: PEG-1 became full."), told(capture("a", Run.State.DONE, 9), capture("b", Run.State.FAILED, 5)),
            "one disk does not make another good");
        assertEquals(List.of(), told(capture("a", Run.State.STOPPED, 9)), "what a person stopped is no trouble");
        assertEquals(List.of(), troubles.since(AT.plusSeconds(3600)).stream().toList());
    }

    @Test
    void aCheckThatFoundDamageIsToldWithItsImageAndOneThatCouldNotBeMadeHere() {
        assertEquals(List.of(), told(TestRuns.damaged(check("data/x has another digest."))));
        assertEquals(List.of("DATUM d: The destination is not attached."), told(check("The destination is not attached.")));
    }

    @Test
    void whatWaitsForItsPassphraseWaitsForAPerson() {
        Run waiting = TestRuns.waiting(of("PLUMB", Run.Kind.CAPTURE, "d", "x").encrypted(true), AT, Run.Waits.PASSPHRASE);
        when(queue.waiting()).thenReturn(List.of(waiting, TestRuns.waiting(of("LEDGER", Run.Kind.CAPTURE, "e", "y"), AT)));
        when(records.newest(anyInt())).thenReturn(List.of());
        assertEquals(List.of(true), troubles.since(AT).stream().map(Troubles.Trouble::waits).toList());
    }
}
