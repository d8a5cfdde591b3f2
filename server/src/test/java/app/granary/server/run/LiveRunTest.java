package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.TimeLeft;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.fault.FaultException;
import app.granary.engine.progress.Progress;
import app.granary.engine.codec.Codec;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.SiteEstimate;
import app.granary.engine.site.Storage;
import app.granary.server.destination.Promises;
import app.granary.server.estimate.Prospect;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class LiveRunTest {
    private final AtomicInteger told = new AtomicInteger();

    /** A capture thought to take 100 s by its rates, told as 90 to 125. */
    static Run thoughtToTake100Seconds() {
        SiteDisk disk = SiteDisk.lasting("d", "disk 1", new DiskIdentity("m", "s", 1000), "", 1_000_000);
        Prospect.Source source = new Prospect.Source(new SiteComputer("c", "DATUM", "", "", ComputerFacts.UNKNOWN, List.of(disk)), disk);
        // 1000 bytes at 20 a second, then read back
        Destination drive = new Destination("p", "PEG-1", "here", true, true, 9000, 9000, 0, OptionalLong.empty(), 20, Set.of());
        Prospect prospect = new Prospect(source, new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED),
            new SiteEstimate(SizeEstimate.exact(1000, 1000, new SizeEstimate.Overhead(0, 0, 0)), 1_000_000), 1, List.of(), Map.of());
        Run run = Run.capture("DATUM", "d", "disk 1", "p", "PEG-1", "night", Instant.EPOCH, "ada");
        run.begin("night", Instant.EPOCH);
        run.think(prospect, drive);
        return run;
    }

    private LiveRun capture() {
        return new LiveRun(thoughtToTake100Seconds(), "s", run -> told.incrementAndGet());
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
        assertTrue((late.highSeconds() - late.lowSeconds()) / late.highSeconds() < (early.highSeconds() - early.lowSeconds()) / early.highSeconds(), "relative width");
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
        assertEquals("Stopped as asked. Nothing was left on the destination under a final name.", assertThrows(FaultException.class, () -> run.requireGoingOn("disk")).getMessage());
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
        promises.planTonight(List.of(new Promises.Tonight("cairn", "d", 20), new Promises.Tonight("cairn", "e", 300), new Promises.Tonight("peg", "d", 4000)));
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
        assertEquals(50 - 70, promises.runningBytes("peg", Set.of("datum")), "what datum has written is there for datum");
        assertEquals(-70, promises.runningBytes("peg", Set.of("datum", "plumb")));
        assertEquals(Set.of("datum", "plumb"), promises.runningDisks());
        promises.planTonight(List.of(new Promises.Tonight("peg", "ledger", 7)));
        assertEquals(50 - 70 + 7, promises.promisedBytes("peg", "datum"));
    }

    @Test
    void longSentencesAreCutToWhatTheJournalHolds() {
        Run run = capture().run();
        run.end(Run.State.FAILED, Instant.EPOCH, "x".repeat(5000));
        assertEquals(2000, run.outcome().length());
        assertEquals("failed", run.state().word());
    }
}
