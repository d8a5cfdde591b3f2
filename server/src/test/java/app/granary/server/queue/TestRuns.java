package app.granary.server.queue;

import java.time.Instant;
import java.util.UUID;

/** Runs in whatever state a test wants them. */
public final class TestRuns {
    private TestRuns() {
    }

    public static Run waiting(NewRun asked, Instant at) {
        return new RunRow(asked, at, "ada");
    }

    public static Run waiting(NewRun asked, Instant at, Run.Waits what) {
        RunRow run = new RunRow(asked, at, "ada");
        run.waitFor(what, "It waits.");
        return run;
    }

    public static Run running(NewRun asked, Instant at) {
        RunRow run = new RunRow(asked, at, "ada");
        run.begin(asked.imageName(), at);
        return run;
    }

    public static Run ended(NewRun asked, Instant at, Run.State state, Instant until, String sentence) {
        RunRow run = new RunRow(asked, at, "ada");
        run.begin(asked.imageName(), at);
        run.made(asked.copyId().orElse(UUID.randomUUID()), 71_000_000_000L);
        run.end(state, until, sentence);
        return run;
    }

    public static Run damaged(Run of) {
        ((RunRow) of).damageFound();
        return of;
    }
}
