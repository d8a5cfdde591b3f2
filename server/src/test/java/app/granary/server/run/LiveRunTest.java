package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.fault.FaultException;
import app.granary.engine.progress.Progress;
import app.granary.engine.codec.Codec;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.Storage;
import app.granary.server.estimate.Prospects;
import java.time.Instant;
import java.util.List;
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
        SiteDisk disk = new SiteDisk("d", "disk 1", new DiskIdentity("m", "s", 1000), "", 1_000_000);
        Prospects.Source source = new Prospects.Source(new SiteComputer("c", "DATUM", "", "", ComputerFacts.UNKNOWN, List.of(disk)), disk);
        // 1000 bytes at 20 a second, then read back
        Destination drive = new Destination("p", "PEG-1", "here", true, true, 9000, 9000, 0, OptionalLong.empty(), 20, Set.of());
        Prospects.Prospect prospect = new Prospects.Prospect(source, new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED),
            SizeEstimate.exact(1000, 1000, new SizeEstimate.Overhead(0, 0, 0)), 1_000_000, List.of(), Map.of());
        return Run.capture(prospect, drive, "night", Instant.EPOCH, "ada");
    }

    private LiveRun capture() {
        return new LiveRun(thoughtToTake100Seconds(), "s", run -> told.incrementAndGet());
    }

    @Test
    void beforeAnythingIsKnownTheFirstEstimateIsTold() {
        LiveRun run = capture();
        double[] left = run.secondsLeft();
        assertTrue(left[0] > 89 && left[0] <= 90 && left[1] > 124 && left[1] <= 125);
        assertEquals(0, run.rateBytes());
        assertEquals("DATUM disk 1", run.run().computer() + " " + run.run().disk());
    }

    @Test
    void theRangeNarrowsAsTheWorkGoesOn() throws InterruptedException {
        LiveRun run = capture();
        Thread.sleep(250);
        run.advanced(new Progress(Progress.Stage.CAPTURING, 100, 1000, 50));
        double[] early = run.secondsLeft();
        run.advanced(new Progress(Progress.Stage.CAPTURING, 900, 1000, 450));
        double[] late = run.secondsLeft();
        assertTrue(run.rateBytes() > 0);
        assertTrue((late[1] - late[0]) / late[1] < (early[1] - early[0]) / early[1], "relative width");
        assertTrue(late[1] < early[1]);
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
    void promisesAddUpPerDestinationUntilReleased() {
        Promises promises = new Promises();
        UUID one = UUID.randomUUID();
        UUID two = UUID.randomUUID();
        promises.promise(one, "peg", 100);
        promises.promise(two, "peg", 50);
        promises.promise(UUID.randomUUID(), "cairn", 7);
        assertEquals(150, promises.promisedBytes("peg"));
        promises.promise(one, "peg", -5);
        assertEquals(50, promises.promisedBytes("peg"), "what is written is no longer promised, and never less than nothing");
        promises.release(two);
        assertEquals(0, promises.promisedBytes("peg"));
        assertEquals(7, promises.promisedBytes("cairn"));
    }

    @Test
    void longSentencesAreCutToWhatTheJournalHolds() {
        Run run = capture().run();
        run.end(Run.State.FAILED, Instant.EPOCH, "x".repeat(5000));
        assertEquals(2000, run.outcome().length());
        assertEquals("failed", run.state().word());
    }
}
