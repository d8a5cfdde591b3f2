package app.granary.server.queue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.after;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;
import app.granary.core.fault.Fault;
import app.granary.core.proof.ProofLevel;
import app.granary.core.preflight.Power;
import app.granary.core.image.Lacks;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.host.HostImage;
import app.granary.engine.progress.Errand;
import app.granary.engine.progress.Watch;
import app.granary.server.capture.Captures;
import app.granary.server.check.CopyRuns;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageAt;
import java.util.Optional;
import java.util.List;
import java.time.Instant;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.api.Test;

/** What runs do when devices fail, work collides, or Granary went down: each ends in a state, a sentence and a journal line. */
class RunsTest extends RunsFixture {
    /** Neither begins: one might not last, the other would date the image wrongly. */
    @Test
    void aBatteryThatMayNotLastAndAClockThatRunsBehindAreRefusedWithTheFigures() throws IOException {
        when(host.power()).thenReturn(new Power(true, OptionalInt.of(31), OptionalLong.empty()));
        assertTrue(assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada")).getMessage()
            .contains("runs on its battery, 31 % left"));
        when(host.power()).thenReturn(Power.MAINS);
        when(journal.newest()).thenReturn(Optional.of(Instant.now().plusSeconds(86_400)));
        assertTrue(assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada")).getMessage()
            .contains("Set the clock, then start"));
    }

    /** It was accepted, waited for an hour, and then failed. */
    @Test
    void aDiskInUseIsToldBeforeTheOrderIsAccepted() throws IOException {
        when(devices.inUse("d")).thenReturn("mounted at /home");
        String why = assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING,
            "ada")).getMessage();
        assertTrue(why.contains("is in use: mounted at /home. Nothing was begun."), why);
    }

    @Test
    void aCaptureThatGoesWellRecordsItsImage() throws IOException {
        UUID image = UUID.randomUUID();
        when(imaging.capture(any(), any(), any(), any(), any())).thenReturn(new HostImage("there", 9 * GB, 500 * GB, 10 * GB, List.of(),
            Lacks.NOTHING, new CheckOutcome(ProofLevel.READABLE, List.of(), 9)));
        when(imageRecords.record(any(), any(), any(), any(), any(), anyBoolean(), anyInt(), any())).thenReturn(image);
        Run run = captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada");
        assertEnded(run, Run.State.DONE, Journal.Result.DONE, "9.00 GB stored of 10.0 GB read, estimated 10.0 GB");
        assertEquals(image, run.copyId());
    }

    @Test
    void aFaultEndsItWithTheFaultsOwnSentence() throws IOException {
        when(imaging.capture(any(), any(), any(), any(), any()))
            .thenThrow(Fault.of(Fault.Kind.NO_ROOM, "PEG-1", "PEG-1 became full.").asException());
        assertEnded(captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada"), Run.State.FAILED, Journal.Result.FAILED,
            "PEG-1 became full.");
    }

    @Test
    void theUnforeseenIsSaidToBeThat() throws IOException {
        when(imaging.capture(any(), any(), any(), any(), any())).thenThrow(new IllegalStateException("odd"));
        assertEnded(captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada"), Run.State.FAILED, Journal.Result.FAILED,
            "a reason Granary did not foresee (odd)");
    }

    @Test
    void oneDiskIsNotCapturedTwiceAtOnceAndItsRoomIsPromised() throws Exception {
        CountDownLatch hold = new CountDownLatch(1);
        when(imaging.capture(any(), any(), any(), any(), any())).thenAnswer(call -> {
            hold.await();
            throw Fault.of(Fault.Kind.STOPPED, "d", "Stopped as asked.").asException();
        });
        Run run = captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada");
        verify(imaging, timeout(5000)).capture(any(), any(), any(), any(), any());
        assertEquals(10 * GB, promises.runningBytes("p"));
        assertEquals("This disk is being captured already, or waits to be. Watch that run, or stop it first.",
            assertThrows(Refused.class, () -> captures.begin("d", "p", "other", STORAGE, Captures.Then.NOTHING, "ada")).getMessage());
        runs.stop(run.id(), "ada");
        hold.countDown();
        assertEnded(run, Run.State.STOPPED, Journal.Result.STOPPED, "Stopped as asked.");
        assertThrows(Refused.class, () -> runs.stop(run.id(), "ada"));
    }

    /**
     * A capture asked for right after another one of the same disk was told to have ended was refused: "This disk is being captured
     * already".
     */
    @Test
    void whoReadsThatARunHasEndedMayAskForItsDevicesAtOnce() throws IOException {
        when(imaging.capture(any(), any(), any(), any(), any()))
            .thenThrow(Fault.of(Fault.Kind.NO_ROOM, "PEG-1", "PEG-1 became full.").asException());
        when(repository.save(any())).thenAnswer(call -> {
            RunRow run = call.getArgument(0);
            assertTrue(run.endedAt() == null || queue.underWay().stream().noneMatch(each -> each.run() == run),
                "stored as ended, and under way");
            return run;
        });
        AtomicReference<Run> next = new AtomicReference<>();
        doAnswer(call -> {
            if (next.get() == null) {
                next.set(captures.begin("d", "p", "other", STORAGE, Captures.Then.NOTHING, "eve"));
                assertEquals("", next.get().outcome()); // it waits for nothing
            }
            return null;
        }).when(journal).add(eq("ada"), anyString(), eq("DATUM disk 1"), eq(Journal.Result.FAILED), anyString(), any());
        Run first = captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada");
        verify(journal, timeout(5000)).add(eq("eve"), anyString(), eq("DATUM disk 1"), eq(Journal.Result.FAILED), anyString(), any());
        assertEnded(first, Run.State.FAILED, Journal.Result.FAILED, "PEG-1 became full.");
    }

    @Test
    void aCheckThatFindsDamageFailsAndKeepsTheEvidence() throws IOException {
        UUID image = UUID.randomUUID();
        CheckOutcome damaged = new CheckOutcome(ProofLevel.READABLE,
            List.of(new Problem("data/x", 1, 2, "partition 1", "data/x is damaged.")), 9);
        when(images.shelved(image)).thenReturn(SHELVED);
        when(images.at(eq(image), any())).thenReturn(ImageAt.of("p", "night"));
        when(imaging.check(eq(ImageAt.of("p", "night")), eq(ProofLevel.READABLE), any())).thenReturn(damaged);
        assertEnded(checks.begin(image, ProofLevel.READABLE, Passphrase.NONE, false, "ada"), Run.State.FAILED, Journal.Result.FAILED,
            "data/x is damaged.");
        verify(imageRecords).recordCheck(eq(image), eq(damaged), anyDouble(), eq("ada"));
    }

    @Test
    void whatWasUnderWayWhenGranaryWentDownIsSaidToHaveFailed() {
        RunRow run = new RunRow(CopyRuns.of(Run.Kind.CHECK, UUID.randomUUID(), SHELVED), Clock.systemUTC().instant(), "ada");
        when(repository.findByState(Run.State.RUNNING)).thenReturn(List.of(run));
        restart.takeUp();
        assertEnded(run, Run.State.FAILED, Journal.Result.FAILED, "Granary was ended while this ran.");
    }

    /** What a computer does with its own drive goes on there without Granary, and is asked after under the key it was asked for by. */
    @Test
    void whatWentOnAtAComputerMeanwhileIsHeardOfAgain() throws IOException {
        List<Errand> asked = new CopyOnWriteArrayList<>();
        when(images.shelved(any())).thenReturn(SHELVED);
        CountDownLatch known = new CountDownLatch(1);
        when(imaging.check(any(), any(), any())).thenAnswer(call -> {
            known.await();
            asked.add(call.getArgument(2, Watch.class).errand());
            return new CheckOutcome(ProofLevel.SOUND, List.of(), 9);
        });
        when(office.machineOfDestination("p")).thenReturn("tarn");
        Run first = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        Record order = orders.of(first);
        known.countDown();
        assertEnded(first, Run.State.DONE, Journal.Result.DONE, "is sound");
        assertEquals("tarn", ((RunRow) first).goesOnIn());
        RunRow before = underWayBefore(first, order);
        when(machines.mayBeHeardOf("tarn")).thenReturn(true);
        when(office.machineOfDestination("p")).thenReturn("", "", "tarn");
        restart.takeUp();
        assertEquals(List.of(before), queue.underWay().stream().map(LiveRun::run).toList(), "it holds its devices from then on");
        assertTrue(queue.underWay().stream().allMatch(LiveRun::askedAfter));
        for (int i = 0; i < 500 && before.endedAt() == null; i++) {
            LockSupport.parkNanos(10_000_000);
        }
        assertEquals(Run.State.DONE, before.state(), before.outcome());
        assertEquals(List.of(new Errand(asked.get(0).key(), false), new Errand(asked.get(0).key(), true)), asked);
        RunRow silent = underWayBefore(first, order);
        when(office.machineOfDestination("p")).thenReturn("");
        when(machines.mayBeHeardOf("tarn")).thenReturn(true, false);
        restart.takeUp();
        assertEnded(silent, Run.State.FAILED, Journal.Result.FAILED, "was sent away before it told how it ended. Start it again.");
        RunRow gone = underWayBefore(first, order);
        restart.takeUp();
        assertEnded(gone, Run.State.FAILED, Journal.Result.FAILED, "Granary was ended while this ran.");
    }

    /** As the database has it when Granary is started anew. */
    private RunRow underWayBefore(Run first, Record order) {
        RunRow out = new RunRow(CopyRuns.of(Run.Kind.CHECK, UUID.randomUUID(), SHELVED).as(first.id()), Clock.systemUTC().instant(), "ada");
        out.goesOnIn("tarn");
        out.begin("night", Clock.systemUTC().instant());
        orders.hold(out, order);
        when(repository.findByState(Run.State.RUNNING)).thenReturn(List.of(out));
        return out;
    }

    @Test
    void anEncryptedImageIsNotReadWithoutItsPassphrase() {
        when(images.shelved(any())).thenReturn(new Images.Shelved("night", "DATUM", "d", "disk 1", "S-1", "p", "PEG-1", 9, true, "",
            Images.Format.GRANARY, new UUID(0, 1), true));
        Refused locked = assertThrows(Refused.class,
            () -> checks.begin(UUID.randomUUID(), ProofLevel.READABLE, Passphrase.NONE, false, "ada"));
        assertTrue(locked.getMessage().contains("check it up to sound, which needs none"), locked.getMessage());
    }

    /** Whatever ends a run, its drive is free for the next: an error of Java's own blocked it until the next start. */
    @Test
    void anErrorEndsARunAndFreesItsDevices() throws IOException {
        when(images.shelved(any())).thenReturn(SHELVED);
        when(imaging.check(any(), any(), any())).thenThrow(new OutOfMemoryError("Java heap space"))
            .thenReturn(new CheckOutcome(ProofLevel.SOUND, List.of(), 9));
        assertEnded(checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada"), Run.State.FAILED,
            Journal.Result.FAILED, "did not foresee (Java heap space)");
        assertEnded(checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada"), Run.State.DONE,
            Journal.Result.DONE, "is sound");
    }

    /** The work was done and its outcome stored; who hears of it cannot undo that. */
    @Test
    void aListenerThatFailsDoesNotRewriteAFinishedRun() throws Exception {
        doThrow(new IllegalStateException("no listener")).when(publisher).publishEvent(any(Object.class));
        when(images.shelved(any())).thenReturn(SHELVED);
        when(imaging.check(any(), any(), any())).thenReturn(new CheckOutcome(ProofLevel.SOUND, List.of(), 9));
        Run run = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        assertEnded(run, Run.State.DONE, Journal.Result.DONE, "is sound");
        verify(journal, after(300).never()).add(eq("ada"), anyString(), any(), eq(Journal.Result.FAILED), anyString(), any());
        assertEquals(Run.State.DONE, run.state());
        assertEquals(0, queue.underWay().size());
    }

    /**
     * A database that fails for a moment loses no outcome: it is stored as soon as that works again, and the run does not stay under way.
     */
    @Test
    void anOutcomeThatCouldNotBeStoredIsStoredLater() throws Exception {
        when(images.shelved(any())).thenReturn(SHELVED);
        when(imaging.check(any(), any(), any())).thenReturn(new CheckOutcome(ProofLevel.SOUND, List.of(), 9));
        java.util.concurrent.atomic.AtomicBoolean broken = new java.util.concurrent.atomic.AtomicBoolean(true);
        when(repository.save(any())).thenAnswer(call -> {
            RunRow saved = call.getArgument(0);
            if (saved.endedAt() != null && broken.get()) {
                throw new IllegalStateException("the database is away");
            }
            return saved;
        });
        Run run = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        assertEnded(run, Run.State.DONE, Journal.Result.DONE, "is sound");
        verify(publisher, timeout(5000)).publishEvent(any(Object.class));
        assertEquals(0, queue.underWay().size());
        broken.set(false);
        org.mockito.Mockito.clearInvocations(repository);
        queue.look();
        verify(repository).save((RunRow) run);
    }
}
