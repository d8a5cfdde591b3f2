package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.server.image.Images;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class TroublesTest {
    private static final Instant AT = Instant.parse("2026-11-25T08:00:00Z");

    private final Runs runs = mock(Runs.class);
    private final Troubles troubles = new Troubles(runs);

    private static Run capture(String disk, Run.State state, int minute) {
        Run run = Run.capture("DATUM", disk, disk, "p", "PEG-1", "x-" + minute, AT, "ada");
        run.begin("x-" + minute, AT.plusSeconds(60L * minute));
        run.end(state, AT.plusSeconds(60L * minute + 30), state == Run.State.DONE ? "made" : "PEG-1 became full.");
        return run;
    }

    private static Run check(String sentence) {
        Run run = Run.ofImage(Run.Kind.CHECK, UUID.randomUUID(), new Images.Shelved("x", "DATUM", "d", "d", "s", "p", "PEG-1", 9, false, "", Images.Format.GRANARY, new UUID(0, 1), true), AT, "ada");
        run.begin("x", AT.plusSeconds(10));
        run.end(Run.State.FAILED, AT.plusSeconds(20), sentence);
        return run;
    }

    private List<String> told(Run... newestFirst) {
        when(runs.newest()).thenReturn(List.of(newestFirst));
        return troubles.since(AT.minusSeconds(3600)).stream().map(t -> t.subject() + ": " + t.outcome()).toList();
    }

    @Test
    void aFailureIsToldOnceUntilItIsMadeGood() {
        assertEquals(List.of("DATUM a: PEG-1 became full."), told(capture("a", Run.State.FAILED, 9), capture("a", Run.State.FAILED, 5)));
        assertEquals(List.of(), told(capture("a", Run.State.DONE, 9), capture("a", Run.State.FAILED, 5)));
        assertEquals(List.of("DATUM a: PEG-1 became full."), told(capture("a", Run.State.FAILED, 9), capture("a", Run.State.DONE, 5)), "what failed after it was made is told");
        assertEquals(List.of("DATUM b: PEG-1 became full."), told(capture("a", Run.State.DONE, 9), capture("b", Run.State.FAILED, 5)), "one disk does not make another good");
        assertEquals(List.of(), told(capture("a", Run.State.STOPPED, 9)), "what a person stopped is no trouble");
        assertEquals(List.of(), troubles.since(AT.plusSeconds(3600)).stream().toList());
    }

    @Test
    void aCheckThatFoundDamageIsToldWithItsImageAndOneThatCouldNotBeMadeHere() {
        assertEquals(List.of(), told(check("data/x is damaged from byte 5 on.")));
        assertEquals(List.of("DATUM d: The destination is not attached."), told(check("The destination is not attached.")));
    }

    @Test
    void whatWaitsForItsPassphraseWaitsForAPerson() {
        Run waiting = Run.capture("PLUMB", "d", "disk", "p", "PEG-1", "x", AT, "ada").with("{}", true, false);
        waiting.waitFor("It waits for its passphrase, which was not kept when Granary ended.");
        when(runs.waiting()).thenReturn(List.of(waiting, Run.capture("LEDGER", "e", "disk", "p", "PEG-1", "y", AT, "ada")));
        when(runs.newest()).thenReturn(List.of());
        assertEquals(List.of(true), troubles.since(AT).stream().map(Troubles.Trouble::waits).toList());
    }
}
