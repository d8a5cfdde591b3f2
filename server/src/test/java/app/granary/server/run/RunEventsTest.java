package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.server.change.Changes;
import app.granary.server.account.Accounts;
import app.granary.server.account.Role;
import app.granary.server.account.SessionEnded;
import java.io.IOException;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** An open page must not keep Granary from stopping: the web server waits for its requests, and a page's stream of runs is one. */
class RunEventsTest {
    /** A stream that was open went on after its account was closed. */
    @Test
    void aStreamEndsWithItsSignIn() throws IOException {
        Accounts accounts = mock(Accounts.class);
        when(accounts.signedIn("ada", Instant.EPOCH)).thenReturn(Optional.of(Role.VIEWER));
        RunEvents events = new RunEvents(mock(LiveLines.class), new Changes(), accounts);
        SseEmitter one = events.listen("one", "ada", Instant.EPOCH);
        SseEmitter other = events.listen("other", "ada", Instant.EPOCH);
        events.endOfClosed();
        one.send("still signed in");
        events.signedOut(new SessionEnded("one"));
        assertThrows(IllegalStateException.class, () -> one.send("signed out"));
        other.send("another session");
        when(accounts.signedIn("ada", Instant.EPOCH)).thenReturn(Optional.empty());
        events.endOfClosed();
        assertThrows(IllegalStateException.class, () -> other.send("closed"));
    }

    @Test
    void streamsEndWithTheServerAndNoneBeginsAfter() throws IOException {
        RunEvents events = new RunEvents(mock(LiveLines.class), new Changes(), mock(Accounts.class));
        SseEmitter open = events.listen("session", "ada", java.time.Instant.EPOCH);
        open.send("still open");
        events.end();
        assertThrows(IllegalStateException.class, () -> open.send("after the end"));
        SseEmitter late = events.listen("session", "ada", java.time.Instant.EPOCH);
        assertThrows(IllegalStateException.class, () -> late.send("too late"));
    }
}
