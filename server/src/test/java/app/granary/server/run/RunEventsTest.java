package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.mockito.Mockito.mock;

import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** An open page must not keep Granary from stopping: the web server waits for its requests, and a page's stream of runs is one. */
class RunEventsTest {
    @Test
    void streamsEndWithTheServerAndNoneBeginsAfter() throws IOException {
        RunEvents events = new RunEvents(mock(Runs.class));
        SseEmitter open = events.listen();
        open.send("still open");
        events.end();
        assertThrows(IllegalStateException.class, () -> open.send("after the end"));
        SseEmitter late = events.listen();
        assertThrows(IllegalStateException.class, () -> late.send("too late"));
    }
}
