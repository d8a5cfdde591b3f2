package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Codec;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.Storage;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What runs do when devices fail, work collides, or Granary went down: each ends in a state, a sentence and a journal line. */
class RunsTest {
    private static final Storage STORAGE = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
    private static final long GB = 1_000_000_000L;

    private final Site site = mock(Site.class);
    private final Prospects prospects = mock(Prospects.class);
    private final Promises promises = new Promises();
    private final Images images = mock(Images.class);
    private final Journal journal = mock(Journal.class);
    private final RunRepository repository = mock(RunRepository.class);
    private final Runs runs = new Runs(site, prospects, promises, images, journal, repository, mock(RunEvents.class), Clock.systemUTC());

    @BeforeEach
    void oneDiskOneDrive() throws IOException {
        SiteDisk disk = new SiteDisk("d", "disk 1", new DiskIdentity("m", "S-1", 500 * GB), "", 100_000_000);
        SizeEstimate size = SizeEstimate.exact(10 * GB, 10 * GB, new SizeEstimate.Overhead(0, 0, 0));
        Destination drive = new Destination("p", "PEG-1", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 100_000_000, Set.of("S-2"));
        Prospects.Source source = new Prospects.Source(new SiteComputer("c", "DATUM", "", "", ComputerFacts.UNKNOWN, List.of(disk)), disk);
        when(prospects.fresh("d", STORAGE)).thenReturn(new Prospects.Prospect(source, STORAGE, size, 200_000_000,
            DestinationRules.assess(new ImageNeed("DATUM", Set.of("S-1"), 1, 2, 10 * GB, OptionalLong.empty()), List.of(drive)), Map.of()));
        when(repository.save(any())).thenAnswer(call -> call.getArgument(0));
    }

    private void assertEnded(Run run, Run.State state, Journal.Result result, String sentence) {
        verify(journal, timeout(5000)).add(eq("ada"), anyString(), eq("DATUM disk 1"), eq(result), contains(sentence));
        assertEquals(state, run.state());
        assertTrue(run.outcome().contains(sentence), run.outcome());
        assertEquals(0, promises.promisedBytes("p"));
    }

    @Test
    void aCaptureThatGoesWellRecordsItsImage() throws IOException {
        UUID image = UUID.randomUUID();
        when(site.capture(any(), any(), any(), any(), any())).thenReturn(new SiteImage("there", 9 * GB, 500 * GB, 10 * GB, new CheckOutcome(CheckDepth.FRAMES, List.of(), 9)));
        when(images.record(any(), any(), any(), any(), any(), any())).thenReturn(image);
        Run run = runs.beginCapture("d", "p", "night", STORAGE, "ada");
        assertEnded(run, Run.State.DONE, Journal.Result.DONE, "9.00 GB stored of 10.0 GB read, estimated 10.0 GB");
        assertEquals(image, run.imageId());
    }

    @Test
    void aFaultEndsItWithTheFaultsOwnSentence() throws IOException {
        when(site.capture(any(), any(), any(), any(), any())).thenThrow(Fault.of(Fault.Kind.NO_ROOM, "PEG-1", "PEG-1 became full.").asException());
        assertEnded(runs.beginCapture("d", "p", "night", STORAGE, "ada"), Run.State.FAILED, Journal.Result.FAILED, "PEG-1 became full.");
    }

    @Test
    void theUnforeseenIsSaidToBeThat() throws IOException {
        when(site.capture(any(), any(), any(), any(), any())).thenThrow(new IllegalStateException("odd"));
        assertEnded(runs.beginCapture("d", "p", "night", STORAGE, "ada"), Run.State.FAILED, Journal.Result.FAILED, "a reason Granary did not foresee (odd)");
    }

    @Test
    void oneDiskIsNotCapturedTwiceAtOnceAndItsRoomIsPromised() throws Exception {
        CountDownLatch hold = new CountDownLatch(1);
        when(site.capture(any(), any(), any(), any(), any())).thenAnswer(call -> {
            hold.await();
            throw Fault.of(Fault.Kind.STOPPED, "d", "Stopped as asked.").asException();
        });
        Run run = runs.beginCapture("d", "p", "night", STORAGE, "ada");
        assertEquals(10 * GB, promises.promisedBytes("p"));
        assertEquals("This disk is being captured already. Watch that run, or stop it first.",
            assertThrows(Refused.class, () -> runs.beginCapture("d", "p", "other", STORAGE, "ada")).getMessage());
        runs.stop(run.id(), "ada");
        hold.countDown();
        assertEnded(run, Run.State.STOPPED, Journal.Result.STOPPED, "Stopped as asked.");
        assertThrows(Refused.class, () -> runs.stop(run.id(), "ada"));
    }

    @Test
    void aCheckThatFindsDamageFailsAndKeepsTheEvidence() throws IOException {
        UUID image = UUID.randomUUID();
        CheckOutcome damaged = new CheckOutcome(CheckDepth.FRAMES, List.of(new Problem("data/x", 1, 2, "partition 1", "data/x is damaged.")), 9);
        when(images.shelved(image)).thenReturn(new Images.Shelved("night", "DATUM", "d", "disk 1", "S-1", "p", "PEG-1", 9));
        when(site.check(eq("p"), eq("night"), eq(CheckDepth.FRAMES), any())).thenReturn(damaged);
        assertEnded(runs.beginCheck(image, "ada"), Run.State.FAILED, Journal.Result.FAILED, "data/x is damaged.");
        verify(images).recordCheck(image, damaged, "ada");
    }

    @Test
    void whatWasUnderWayWhenGranaryWentDownIsSaidToHaveFailed() {
        Run run = Run.check(UUID.randomUUID(), "DATUM", "d", "disk 1", "p", "PEG-1", "night", 9, Clock.systemUTC().instant(), "ada");
        when(repository.findByState(Run.State.RUNNING)).thenReturn(List.of(run));
        runs.endInterrupted();
        assertEnded(run, Run.State.FAILED, Journal.Result.FAILED, "Granary was ended while this ran.");
    }
}
