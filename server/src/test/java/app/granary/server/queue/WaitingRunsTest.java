package app.granary.server.queue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.after;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;
import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.core.proof.ProofLevel;
import app.granary.core.preflight.Power;
import app.granary.core.proof.CheckOutcome;
import app.granary.server.capture.Captures;
import app.granary.server.image.Images;
import app.granary.server.estimate.Prospect;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import app.granary.engine.openpgp.Passphrase;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;

/** What waits, what for, and what becomes of it. */
class WaitingRunsTest extends RunsFixture {
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

    /** Two computers that joined worked one after the other, though each has processors of its own. */
    @Test
    void eachMachineDoesAsManyAtOnceAsItIsGoodFor() throws Exception {
        CountDownLatch hold = new CountDownLatch(1);
        when(imaging.check(any(), any(), any())).thenAnswer(call -> {
            hold.await();
            return new CheckOutcome(ProofLevel.SOUND, List.of(), 9);
        });
        int atOnce = Math.max(2, Runtime.getRuntime().availableProcessors() / 2);
        List<Run> all = new ArrayList<>();
        List<UUID> copies = new ArrayList<>();
        for (int i = 0; i < atOnce + 3; i++) { // told before the first begins, which asks from a thread of its own
            String drive = "drive-" + i;
            UUID copy = UUID.randomUUID();
            copies.add(copy);
            when(images.shelved(copy)).thenReturn(new Images.Shelved("night-" + i, "DATUM", "d", "disk 1", "S-1", drive, drive, 9, false,
                "", Images.Format.GRANARY, copy, true));
            when(office.machineOfDestination(drive)).thenReturn(i > atOnce ? "tripod" : "");
        }
        for (UUID copy : copies) {
            all.add(checks.begin(copy, ProofLevel.SOUND, Passphrase.NONE, false, "ada"));
        }
        assertEquals(Run.State.QUEUED, all.get(atOnce).state());
        assertEquals("It waits until one of the " + atOnce + " runs under way has ended.", all.get(atOnce).outcome());
        for (int i : new int[] {0, 1, atOnce + 1, atOnce + 2}) {
            assertEquals(Run.State.RUNNING, all.get(i).state(), "run " + i);
        }
        hold.countDown();
        for (int i = 0; i < 500 && !all.stream().allMatch(run -> run.state() == Run.State.DONE); i++) {
            Thread.sleep(10);
        }
        assertTrue(all.stream().allMatch(run -> run.state() == Run.State.DONE), all.toString());
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
        assertEquals(java.util.Set.of(planned.planId()), captures.plansOf(LocalDate.of(2026, 11, 24)));
        runs.startNow(planned.id(), Passphrase.NONE, "ada");
        assertEquals("It waits for its passphrase, which was not kept when Granary ended.", planned.outcome());
        when(prospects.of("d", STORAGE, true))
            .thenThrow(Fault.of(Fault.Kind.DEVICE_FAILED, "d", "The disk is not attached.").asException());
        runs.startNow(planned.id(), Passphrase.of("x".toCharArray()), "ada");
        assertEnded(planned, Run.State.FAILED, Journal.Result.FAILED, "The disk is not attached.");
        assertTrue(planned.imageName().startsWith("DATUM-2"), planned.imageName());
        assertTrue(passphrases.of(planned.id()).isNone(), "forgotten when it has ended");

        queue.takeUp(List.of(planned), List.of());
        runs.stop(planned.id(), "ada");
        assertEquals(Run.State.STOPPED, planned.state());
        assertEquals(List.of(), queue.waiting());
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

    /** A refused capture emptied the trash for good: room was made before it was known whether it helps. */
    @Test
    void theTrashIsEmptiedOnlyByWhatIsShortOnlyWhenItHelpsAndOnlyForWhatStarts() throws Exception {
        Prospect away = prospect(17 * GB, false);
        Prospect shortBy3 = prospect(17 * GB, true);
        Prospect enough = prospect(20 * GB, true);
        when(prospects.of("d", STORAGE, false)).thenReturn(away);
        when(trash.trashBytes("p")).thenReturn(900 * GB);
        assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada"),
            "short of room and not attached");
        when(prospects.of("d", STORAGE, false)).thenReturn(shortBy3);
        when(trash.trashBytes("p")).thenReturn(2 * GB);
        String why = assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING,
            "ada")).getMessage();
        assertTrue(why.startsWith("PEG-1 is 3.00 GB short"), why);
        when(host.power()).thenReturn(new Power(true, OptionalInt.of(3), OptionalLong.empty()));
        when(trash.trashBytes("p")).thenReturn(900 * GB);
        assertThrows(Refused.class, () -> captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada"),
            "its battery may not last");
        verify(trash, never()).makeRoom(any(), anyLong());
        when(host.power()).thenReturn(Power.MAINS);
        when(prospects.of("d", STORAGE, false)).thenReturn(shortBy3, shortBy3, enough);
        when(trash.makeRoom("p", 3 * GB)).thenReturn(4 * GB);
        when(imaging.capture(any(), any(), any(), any(), any())).thenThrow(Fault.of(Fault.Kind.NO_ROOM, "PEG-1", "PEG-1 became full.")
            .asException());
        assertEnded(captures.begin("d", "p", "night", STORAGE, Captures.Then.NOTHING, "ada"), Run.State.FAILED, Journal.Result.FAILED,
            "PEG-1 became full.");
        verify(trash).makeRoom("p", 3 * GB);
    }
}
