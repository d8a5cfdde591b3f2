package app.granary.server.queue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.after;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.core.preflight.Power;
import app.granary.core.image.Lacks;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Devices;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.Storage;
import app.granary.server.change.Changes;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.capture.CaptureTimes;
import app.granary.server.capture.CaptureWork;
import app.granary.server.capture.Captures;
import app.granary.server.capture.Preflights;
import app.granary.server.check.CheckWork;
import app.granary.server.check.Checks;
import app.granary.server.check.CopyRuns;
import app.granary.server.copy.CopyWork;
import app.granary.server.repair.RepairWork;
import app.granary.server.run.Runs;
import org.springframework.transaction.support.TransactionOperations;
import app.granary.server.destination.Promises;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.Images;
import app.granary.server.image.RoomMaker;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageAt;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.plan.Plans;
import com.fasterxml.jackson.databind.ObjectMapper;
import org.springframework.context.ApplicationEventPublisher;
import java.time.LocalDate;
import java.util.Optional;
import java.util.List;
import java.util.Map;
import java.time.Instant;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What runs do when devices fail, work collides, or Granary went down: each ends in a state, a sentence and a journal line. */
class RunsTest {
    private static final Storage STORAGE = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
    private static final long GB = 1_000_000_000L;

    private static final Images.Shelved SHELVED = new Images.Shelved("night", "DATUM", "d", "disk 1", "S-1", "p", "PEG-1", 9, false, "",
        Images.Format.GRANARY, new UUID(0, 1), true);

    private final Devices devices = mock(Devices.class);
    private final ImageStore store = mock(ImageStore.class);
    private final Imaging imaging = mock(Imaging.class);
    private final Host host = mock(Host.class);
    private final Prospects prospects = mock(Prospects.class);
    private final Promises promises = new Promises();
    private final Images images = mock(Images.class);
    private final Elsewhere elsewhere = mock(Elsewhere.class);
    private final Journal journal = mock(Journal.class);
    private final RunRepository repository = mock(RunRepository.class);
    private final WorkOrderRepository workOrders = mock(WorkOrderRepository.class);
    private final Plans plans = mock(Plans.class);
    private final DisksOnRecord disks = mock(DisksOnRecord.class);
    private final Passphrases passphrases = new Passphrases();
    private final RoomMaker trash = mock(RoomMaker.class);
    private final ApplicationEventPublisher publisher = mock(ApplicationEventPublisher.class);
    private final OfficeClaims office = mock(OfficeClaims.class);
    private final Preflights preflights = new Preflights(devices, host, prospects, trash, journal, Clock.systemUTC());
    private final Orders orders = new Orders(
        List.of(new CaptureWork(store, imaging, office, preflights, prospects, promises, images, plans, mock(CaptureTimes.class), journal),
            new CheckWork(imaging, office, images, elsewhere), new CopyWork(imaging, office, images, promises),
            new RepairWork(imaging, office, images)),
        workOrders, new ObjectMapper());
    private final RunEnds ends = new RunEnds(orders, repository, promises, passphrases, journal, publisher,
        TransactionOperations.withoutTransaction(), Clock.systemUTC());
    private final RunQueue queue = new RunQueue(orders, disks, repository, passphrases, ends, new Changes(),
        TransactionOperations.withoutTransaction(), Clock.systemUTC());
    private final Restart restart = new Restart(host, queue, orders, ends, repository);
    private final Runs runs = new Runs(queue, journal);
    private final Captures captures = new Captures(store, queue, new RunRecords(repository, journal, Clock.systemUTC()), preflights, disks,
        images, journal);
    private final Checks checks = new Checks(new CopyRuns(queue, images, journal));

    @BeforeEach
    void oneDiskOneDrive() throws IOException {
        HostDisk disk = HostDisk.lasting("d", "disk 1", new DiskIdentity("m", "S-1", 500 * GB), "", 100_000_000);
        SizeEstimate size = SizeEstimate.exact(10 * GB, 10 * GB, new SizeEstimate.Overhead(0, 0, 0));
        Destination drive = new Destination("p", "PEG-1", "here", true, true, 500 * GB, 400 * GB, 0, OptionalLong.empty(), 100_000_000,
            Set.of("S-2"));
        Prospect.Source source = new Prospect.Source(new HostComputer("c", "DATUM", "", "", ComputerFacts.UNKNOWN, List.of(disk)), disk);
        when(prospects.source("d")).thenReturn(source);
        when(prospects.fresh("d", STORAGE, false)).thenReturn(new Prospect(source, STORAGE, new HostEstimate(size, 200_000_000), 1,
            DestinationRules.assess(new ImageNeed("DATUM", Set.of("S-1"), 1, 2, 10 * GB, OptionalLong.empty()), List.of(drive)), Map.of()));
        when(repository.save(any())).thenAnswer(call -> call.getArgument(0));
        when(host.power()).thenReturn(Power.MAINS);
        when(devices.inUse(any())).thenReturn("");
        when(office.reading(anyString(), anyString())).thenAnswer(call -> List.of(DeviceClaim.read(Device.named(call.getArgument(0),
            call.getArgument(1)))));
        when(office.storing(anyString(), anyString())).thenAnswer(call -> List.of(DeviceClaim.store(Device.named(call.getArgument(0),
            call.getArgument(1)))));
    }

    /** Neither begins: one might not last, the other would date the image wrongly. */
    @Test
    void aBatteryThatMayNotLastAndAClockThatRunsBehindAreRefusedWithTheFigures() throws IOException {
        when(host.power()).thenReturn(new Power(true, OptionalInt.of(31), OptionalLong.empty()));
        assertTrue(assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, "ada")).getMessage()
            .contains("runs on its battery, 31 % left"));
        when(host.power()).thenReturn(Power.MAINS);
        when(journal.newest()).thenReturn(Optional.of(Instant.now().plusSeconds(86_400)));
        assertTrue(assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, "ada")).getMessage()
            .contains("Set the clock, then start"));
    }

    /** It was accepted, waited for an hour, and then failed. */
    @Test
    void aDiskInUseIsToldBeforeTheOrderIsAccepted() throws IOException {
        when(devices.inUse("d")).thenReturn("mounted at /home");
        String why = assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, "ada")).getMessage();
        assertTrue(why.contains("is in use: mounted at /home. Nothing was begun."), why);
    }

    private void assertEnded(Run run, Run.State state, Journal.Result result, String sentence) {
        verify(journal, timeout(5000)).add(eq("ada"), anyString(), eq("DATUM disk 1"), eq(result), contains(sentence), any());
        assertEquals(state, run.state());
        assertTrue(run.outcome().contains(sentence), run.outcome());
        assertEquals(0, promises.runningBytes("p"));
    }

    @Test
    void aCaptureThatGoesWellRecordsItsImage() throws IOException {
        UUID image = UUID.randomUUID();
        when(imaging.capture(any(), any(), any(), any(), any())).thenReturn(new HostImage("there", 9 * GB, 500 * GB, 10 * GB, List.of(),
            Lacks.NOTHING, new CheckOutcome(ProofLevel.READABLE, List.of(), 9)));
        when(images.record(any(), any(), any(), any(), any(), anyBoolean(), anyInt(), any())).thenReturn(image);
        Run run = captures.begin("d", "p", "night", STORAGE, "ada");
        assertEnded(run, Run.State.DONE, Journal.Result.DONE, "9.00 GB stored of 10.0 GB read, estimated 10.0 GB");
        assertEquals(image, run.copyId());
    }

    @Test
    void aFaultEndsItWithTheFaultsOwnSentence() throws IOException {
        when(imaging.capture(any(), any(), any(), any(), any()))
            .thenThrow(Fault.of(Fault.Kind.NO_ROOM, "PEG-1", "PEG-1 became full.").asException());
        assertEnded(captures.begin("d", "p", "night", STORAGE, "ada"), Run.State.FAILED, Journal.Result.FAILED, "PEG-1 became full.");
    }

    @Test
    void theUnforeseenIsSaidToBeThat() throws IOException {
        when(imaging.capture(any(), any(), any(), any(), any())).thenThrow(new IllegalStateException("odd"));
        assertEnded(captures.begin("d", "p", "night", STORAGE, "ada"), Run.State.FAILED, Journal.Result.FAILED,
            "a reason Granary did not foresee (odd)");
    }

    @Test
    void oneDiskIsNotCapturedTwiceAtOnceAndItsRoomIsPromised() throws Exception {
        CountDownLatch hold = new CountDownLatch(1);
        when(imaging.capture(any(), any(), any(), any(), any())).thenAnswer(call -> {
            hold.await();
            throw Fault.of(Fault.Kind.STOPPED, "d", "Stopped as asked.").asException();
        });
        Run run = captures.begin("d", "p", "night", STORAGE, "ada");
        verify(imaging, timeout(5000)).capture(any(), any(), any(), any(), any());
        assertEquals(10 * GB, promises.runningBytes("p"));
        assertEquals("This disk is being captured already, or waits to be. Watch that run, or stop it first.",
            assertThrows(Refused.class, () -> captures.begin("d", "p", "other", STORAGE, "ada")).getMessage());
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
                next.set(captures.begin("d", "p", "other", STORAGE, "eve"));
                assertEquals("", next.get().outcome()); // it waits for nothing
            }
            return null;
        }).when(journal).add(eq("ada"), anyString(), eq("DATUM disk 1"), eq(Journal.Result.FAILED), anyString(), any());
        assertEnded(captures.begin("d", "p", "night", STORAGE, "ada"), Run.State.FAILED, Journal.Result.FAILED, "PEG-1 became full.");
        verify(journal, timeout(5000)).add(eq("eve"), anyString(), eq("DATUM disk 1"), eq(Journal.Result.FAILED), anyString(), any());
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
        verify(images).recordCheck(eq(image), eq(damaged), anyDouble(), eq("ada"));
    }

    @Test
    void whatWasUnderWayWhenGranaryWentDownIsSaidToHaveFailed() {
        RunRow run = new RunRow(CopyRuns.of(Run.Kind.CHECK, UUID.randomUUID(), SHELVED), Clock.systemUTC().instant(), "ada");
        when(repository.findByState(Run.State.RUNNING)).thenReturn(List.of(run));
        restart.takeUp();
        assertEnded(run, Run.State.FAILED, Journal.Result.FAILED, "Granary was ended while this ran.");
    }

    /** Two onto one drive: the second waits, says what for, and begins by itself; one of low priority comes last. */
    @Test
    void whatCannotBeginYetWaitsAndSaysWhatFor() throws Exception {
        CountDownLatch hold = new CountDownLatch(1);
        when(images.shelved(any())).thenReturn(SHELVED);
        when(imaging.check(any(), any(), any())).thenAnswer(call -> {
            hold.await();
            return new CheckOutcome(ProofLevel.SOUND, List.of(), 9);
        });
        Run first = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        Run low = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, true, "ada");
        Run second = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        assertEquals(Run.State.RUNNING, first.state());
        assertEquals("It waits until PEG-1 is free: night uses it.", second.outcome());
        runs.lower(low.id(), true, "ada");
        hold.countDown();
        for (Run each : List.of(first, second, low)) {
            long until = System.nanoTime() + 5_000_000_000L;
            while (each.state() != Run.State.DONE && System.nanoTime() < until) {
                Thread.sleep(10);
            }
            assertEquals(Run.State.DONE, each.state());
        }
        assertTrue(!low.begunAt().isBefore(second.begunAt()));
    }

    @Test
    void whatWaitsCanBeTakenOutStartedByHandAndSurvivesARestart() throws Exception {
        RunRow planned = new RunRow(
            NewRun.of(Run.Kind.CAPTURE, new NewRun.About("DATUM", "d", "disk 1", "p", "PEG-1"), "DATUM disk 1").encrypted(true)
                .inNight(LocalDate.of(2026, 11, 24), UUID.randomUUID(), Clock.systemUTC().instant().plusSeconds(3600)),
            Clock.systemUTC().instant(), "ada");
        // as the version before kept it, with what other kinds were asked in the same form
        when(workOrders.findById(planned.id())).thenReturn(Optional.of(new WorkOrder(planned.id(), 1,
            """
            {"codec":"zstd","level":3,"splitBytes":null,"allBlocks":false,"keepSwap":false,"without":[],"carryOn":false,"proof":"",
            "otherId":"","naming":"{computer}-{date}","afterwards":""}""")));
        when(repository.findByState(Run.State.QUEUED)).thenReturn(List.of(planned));
        when(repository.findById(planned.id())).thenReturn(Optional.of(planned));
        restart.takeUp();
        assertEquals(List.of(planned), queue.waiting());
        assertTrue(captures.nightUnderWay(LocalDate.of(2026, 11, 24)));
        runs.startNow(planned.id(), Passphrase.NONE, "ada");
        assertEquals("It waits for its passphrase, which was not kept when Granary ended.", planned.outcome());
        when(prospects.fresh("d", STORAGE, true))
            .thenThrow(Fault.of(Fault.Kind.DEVICE_FAILED, "d", "The disk is not attached.").asException());
        runs.startNow(planned.id(), Passphrase.of("x".toCharArray()), "ada");
        assertEnded(planned, Run.State.FAILED, Journal.Result.FAILED, "The disk is not attached.");
        assertTrue(planned.imageName().startsWith("DATUM-2"), planned.imageName());
        assertTrue(passphrases.of(planned.id()).isNone(), "forgotten when it has ended");

        queue.takeUp(List.of(planned));
        runs.stop(planned.id(), "ada");
        assertEquals(Run.State.STOPPED, planned.state());
        assertEquals(List.of(), queue.waiting());
    }

    @Test
    void anEncryptedImageIsNotReadWithoutItsPassphrase() {
        when(images.shelved(any())).thenReturn(new Images.Shelved("night", "DATUM", "d", "disk 1", "S-1", "p", "PEG-1", 9, true, "",
            Images.Format.GRANARY, new UUID(0, 1), true));
        Refused locked = assertThrows(Refused.class,
            () -> checks.begin(UUID.randomUUID(), ProofLevel.READABLE, Passphrase.NONE, false, "ada"));
        assertTrue(locked.getMessage().contains("check it up to sound, which needs none"), locked.getMessage());
    }

    /** One run that could not tell what it touches kept every other from beginning, at every look. */
    @Test
    void aRunThatCannotTellWhatItTouchesFailsAndKeepsNobodyWaiting() throws Exception {
        when(images.shelved(any())).thenReturn(SHELVED);
        when(office.storing(anyString(), anyString())).thenThrow(Refused.notFound("image")).thenAnswer(
            call -> List.of(DeviceClaim.store(Device.named(call.getArgument(0), call.getArgument(1)))));
        when(imaging.check(any(), any(), any())).thenReturn(new CheckOutcome(ProofLevel.SOUND, List.of(), 9));
        Run lost = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        assertEnded(lost, Run.State.FAILED, Journal.Result.FAILED, "It could not begin: ");
        assertEnded(checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada"), Run.State.DONE,
            Journal.Result.DONE, "is sound");
        assertEquals(List.of(), queue.waiting());
    }

    /** What fails for a moment is tried again; only what is gone ends it. */
    @Test
    void aRunWhoseDevicesCannotBeToldForAMomentWaitsOn() throws Exception {
        when(images.shelved(any())).thenReturn(SHELVED);
        when(office.storing(anyString(), anyString())).thenThrow(new IllegalStateException("the database is away")).thenAnswer(
            call -> List.of(DeviceClaim.store(Device.named(call.getArgument(0), call.getArgument(1)))));
        when(imaging.check(any(), any(), any())).thenReturn(new CheckOutcome(ProofLevel.SOUND, List.of(), 9));
        Run run = checks.begin(UUID.randomUUID(), ProofLevel.SOUND, Passphrase.NONE, false, "ada");
        assertEquals(List.of(run), queue.waiting());
        queue.look();
        assertEnded(run, Run.State.DONE, Journal.Result.DONE, "is sound");
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

    /** Who confirmed a disk looked at it then; after a restart nobody has. */
    @Test
    void whatWaitedToOverwriteADiskIsNotTakenUpAfterARestart() throws IOException {
        List<RunRow> waited = new java.util.ArrayList<>();
        for (Run.Kind kind : Run.Kind.values()) {
            RunRow run = new RunRow(NewRun.of(kind, new NewRun.About("DATUM", "d", "disk 1", "target-x", "Spare 2"), "night"),
                Clock.systemUTC().instant(), "ada");
            waited.add(run);
            if (kind == Run.Kind.CHECK) {
                when(workOrders.findById(run.id())).thenReturn(Optional.of(new WorkOrder(run.id(), 1, "{\"proof\":\"SOUND\"}")));
            } else if (kind == Run.Kind.COPY) {
                when(workOrders.findById(run.id())).thenReturn(Optional.of(new WorkOrder(run.id(), 1, "{torn")));
            }
        }
        when(repository.findByState(Run.State.QUEUED)).thenReturn(waited);
        restart.takeUp();
        assertEquals(List.of(Run.Kind.CHECK), queue.waiting().stream().map(Run::kind).toList());
        for (RunRow each : waited) {
            if (each.kind() != Run.Kind.CHECK) {
                assertEquals(Run.State.STOPPED, each.state());
                assertTrue(each.outcome().endsWith(each.kind().overwrites() ? "Look at the disk, and confirm it again."
                    : "before what was asked for was kept. Ask for it again."), each.outcome());
            }
        }
    }

    private Prospect prospect(long freeBytes, boolean attached) throws IOException {
        SizeEstimate size = SizeEstimate.exact(10 * GB, 10 * GB, new SizeEstimate.Overhead(0, 0, 0));
        Destination drive = new Destination("p", "PEG-1", "here", attached, true, 500 * GB, freeBytes, 0, OptionalLong.empty(), 100_000_000,
            Set.of("S-2"));
        return new Prospect(prospects.source("d"), STORAGE, new HostEstimate(size, 200_000_000), 1,
            DestinationRules.assess(new ImageNeed("DATUM", Set.of("S-1"), 1, 2, 10 * GB, OptionalLong.empty()), List.of(drive)), Map.of());
    }

    /** A refused capture emptied the trash for good: room was made before it was known whether it helps. */
    @Test
    void theTrashIsEmptiedOnlyByWhatIsShortOnlyWhenItHelpsAndOnlyForWhatStarts() throws Exception {
        Prospect away = prospect(17 * GB, false);
        Prospect shortBy3 = prospect(17 * GB, true);
        Prospect enough = prospect(20 * GB, true);
        when(prospects.fresh("d", STORAGE, false)).thenReturn(away);
        when(trash.trashBytes("p")).thenReturn(900 * GB);
        assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, "ada"), "short of room and not attached");
        when(prospects.fresh("d", STORAGE, false)).thenReturn(shortBy3);
        when(trash.trashBytes("p")).thenReturn(2 * GB);
        String why = assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, "ada")).getMessage();
        assertTrue(why.startsWith("PEG-1 is 3.00 GB short"), why);
        when(host.power()).thenReturn(new Power(true, OptionalInt.of(3), OptionalLong.empty()));
        when(trash.trashBytes("p")).thenReturn(900 * GB);
        assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, "ada"), "its battery may not last");
        verify(trash, never()).makeRoom(any(), anyLong());
        when(host.power()).thenReturn(Power.MAINS);
        when(prospects.fresh("d", STORAGE, false)).thenReturn(shortBy3, shortBy3, enough);
        when(trash.makeRoom("p", 3 * GB)).thenReturn(4 * GB);
        when(imaging.capture(any(), any(), any(), any(), any())).thenThrow(Fault.of(Fault.Kind.NO_ROOM, "PEG-1", "PEG-1 became full.")
            .asException());
        assertEnded(captures.begin("d", "p", "night", STORAGE, "ada"), Run.State.FAILED, Journal.Result.FAILED, "PEG-1 became full.");
        verify(trash).makeRoom("p", 3 * GB);
    }
}
