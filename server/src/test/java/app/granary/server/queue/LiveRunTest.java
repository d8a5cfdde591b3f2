package app.granary.server.queue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.estimate.TimeLeft;
import app.granary.core.fault.FaultException;
import app.granary.engine.progress.Progress;
import app.granary.server.destination.Promises;
import java.time.Instant;
import java.util.Set;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class LiveRunTest {
    private final AtomicInteger told = new AtomicInteger();

    /** A capture estimated to take 90 to 125 s. */
    private static RunRow estimatedToTake100Seconds() {
        RunRow run = new RunRow(
            NewRun.of(Run.Kind.CAPTURE, new NewRun.About("DATUM", "d", "disk 1", "p", "PEG-1"), "night").expecting(1000, 90, 125),
            Instant.EPOCH, "ada");
        run.begin("night", Instant.EPOCH);
        return run;
    }

    private LiveRun capture() {
        return new LiveRun(estimatedToTake100Seconds(), "s", run -> told.incrementAndGet());
    }

    @Test
    void beforeAnythingIsKnownTheFirstEstimateIsTold() {
        LiveRun run = capture();
        TimeLeft left = run.timeLeft();
        assertTrue(left.lowSeconds() > 89 && left.lowSeconds() <= 90 && left.highSeconds() > 124 && left.highSeconds() <= 125);
        assertEquals(0, run.rateBytes());
        assertEquals("DATUM disk 1", run.run().computer() + " " + run.run().disk());
    }

    @Test
    void theRangeNarrowsAsTheWorkGoesOn() throws InterruptedException {
        LiveRun run = capture();
        Thread.sleep(250);
        run.advanced(new Progress(Progress.Stage.CAPTURING, 100, 1000, 50));
        TimeLeft early = run.timeLeft();
        run.advanced(new Progress(Progress.Stage.CAPTURING, 900, 1000, 450));
        TimeLeft late = run.timeLeft();
        assertTrue(run.rateBytes() > 0);
        assertTrue((late.highSeconds() - late.lowSeconds()) / late.highSeconds() < (early.highSeconds() - early.lowSeconds())
            / early.highSeconds(), "relative width");
        assertTrue(late.highSeconds() < early.highSeconds());
        assertEquals(2, told.get());
        run.advanced(new Progress(Progress.Stage.CHECKING, 0, 500, 500));
        assertEquals("checking", run.progress().stage().word());
        assertEquals(0, run.rateBytes(), "a new stage has no rate yet");
    }

    @Test
    void stoppingIsSeenByTheWork() throws Exception {
        LiveRun run = capture();
        run.requireGoingOn("disk");
        run.stop();
        assertEquals("Stopped as asked. Nothing was left on the destination under a final name.",
            assertThrows(FaultException.class, () -> run.requireGoingOn("disk")).getMessage());
    }

    @Test
    void aHeldRunWaitsBetweenTwoPiecesAndTheWaitIsNotItsRate() throws Exception {
        LiveRun run = capture();
        run.pause(true);
        Thread work = new Thread(() -> {
            try {
                run.requireGoingOn("disk");
                told.addAndGet(1000);
            } catch (java.io.IOException stopped) {
                told.addAndGet(-1000);
            }
        });
        work.start();
        work.join(400);
        assertTrue(work.isAlive() && run.paused());
        run.advanced(new Progress(Progress.Stage.CAPTURING, 500, 1000, 250));
        run.pause(false);
        work.join(5000);
        assertEquals(1001, told.get());
        assertTrue(run.rateBytes() == 0 || run.rateBytes() > 1000, run.rateBytes() + " a second: 400 ms of it were waited");
    }

    @Test
    void promisesAddUpPerDestinationUntilReleased() {
        Promises promises = new Promises();
        UUID one = UUID.randomUUID();
        UUID two = UUID.randomUUID();
        promises.promise(one, "peg", 100);
        promises.promise(two, "peg", 50);
        promises.promise(UUID.randomUUID(), "cairn", 7);
        assertEquals(150, promises.runningBytes("peg"));
        promises.promise(one, "peg", -5);
        assertEquals(50, promises.runningBytes("peg"), "what is written is no longer promised, and never less than nothing");
        promises.release(two);
        assertEquals(0, promises.runningBytes("peg"));
        assertEquals(7, promises.runningBytes("cairn"));
        promises.planTonight(List.of(new Promises.Tonight("cairn", "d", 20), new Promises.Tonight("cairn", "e", 300),
            new Promises.Tonight("peg", "d", 4000)));
        assertEquals(327, promises.promisedBytes("cairn", ""), "what runs and what is planned");
        assertEquals(307, promises.promisedBytes("cairn", "d"), "a disk's own place tonight is there for its image");
        promises.planTonight(List.of());
        assertEquals(7, promises.promisedBytes("cairn", ""));
    }

    /** A night that ran was planned once more with its own runs in its way: "none of 4 fit". */
    @Test
    void whatARunIsPromisedIsNotInItsOwnWay() {
        Promises promises = new Promises();
        promises.promise(UUID.randomUUID(), "peg", "datum", 100, 30);
        promises.promise(UUID.randomUUID(), "peg", "plumb", 50, 50);
        assertEquals(80, promises.runningBytes("peg"));
        assertEquals(50, promises.runningBytes("peg", Set.of("datum")), "a promise to others is never less than nothing");
        assertEquals(70, promises.ownBytes("peg", Set.of("datum")), "what datum has written is there for datum");
        assertEquals(0, promises.runningBytes("peg", Set.of("datum", "plumb")));
        assertEquals(70, promises.ownBytes("peg", Set.of("datum", "plumb")));
        assertEquals(Set.of("datum", "plumb"), promises.runningDisks());
        promises.planTonight(List.of(new Promises.Tonight("peg", "ledger", 7)));
        assertEquals(50 + 7, promises.promisedBytes("peg", "datum"));
    }

    @Test
    void longSentencesAreCutToWhatTheJournalHolds() {
        RunRow run = capture().row();
        run.end(Run.State.FAILED, Instant.EPOCH, "x".repeat(5000));
        assertEquals(2000, run.outcome().length());
        assertEquals("failed", run.state().word());
    }
}
