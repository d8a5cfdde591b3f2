package app.granary.server.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.image.Lacks;
import app.granary.core.inventory.Firmware;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Devices;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Overwriting;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.home.Pace;
import app.granary.server.image.Elsewhere;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.TestRuns;
import app.granary.server.queue.Took;
import app.granary.server.served.ServedImages;
import app.granary.server.target.Targets;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class RestorationsTest {
    private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");
    private static final List<String> CHECKS = List.of("It starts", "Log-in works");

    private final Targets targets = mock(Targets.class);
    private final Images images = mock(Images.class);
    private final ImageRecords imageRecords = mock(ImageRecords.class);
    private final RestorationRepository repository = mock(RestorationRepository.class);
    private final Journal journal = mock(Journal.class);
    private final RunQueue queue = mock(RunQueue.class);
    private final Clock clock = Clock.fixed(NOW, ZoneOffset.UTC);
    private final Elsewhere elsewhere = mock(Elsewhere.class);
    private final Sources sources = new Sources(images, mock(DisksOnRecord.class), targets, mock(ImageStore.class), mock(Devices.class),
        Pace.REAL, mock(ServedImages.class), elsewhere, clock);
    private final RestorationRecords records = new RestorationRecords(repository, imageRecords, journal, clock);
    private final Writing work = new Writing.RestoreWork(mock(Overwriting.class), mock(OfficeClaims.class), targets, images, sources,
        repository, records, clock);
    private final UUID imageId = UUID.randomUUID();
    private RestorationRecords restorations;
    private Restorations orders;

    @BeforeEach
    void aService() {
        when(repository.save(any())).thenAnswer(call -> call.getArgument(0));
        when(elsewhere.lacks(any())).thenReturn(Lacks.NOTHING);
        restorations = records;
        orders = new Restorations(mock(Devices.class), mock(Overwriting.class), targets, images, mock(ComputersOnRecord.class), repository,
            restorations, sources, mock(RunQueue.class), journal, new ObjectMapper(), clock);
    }

    private Restoration asked(Restoration.Kind kind, String serial) {
        Restoration out = new Restoration(kind, "TRIPOD-1", kind == Restoration.Kind.SPARE ? null : imageId, NOW.minusSeconds(86_400),
            "tripod", "TRIPOD", "system disk", NOW, "ada")
            .onto(new Overwriting.Confirmed("spare-1", new DiskIdentity("Aldine N1", serial, 120), List.of()), "Spare 1", "TRIPOD",
                Firmware.UEFI, "{}", null);
        when(repository.findById(out.id())).thenReturn(Optional.of(out));
        when(repository.findByRunId(out.runId())).thenReturn(Optional.of(out));
        when(repository.findTop100ByOrderByAskedAtDesc()).thenReturn(List.of(out));
        return out;
    }

    private void ended(Restoration of, boolean done, String sentence) {
        NewRun asked = NewRun.of(Run.Kind.RESTORE, new NewRun.About("TRIPOD", "tripod", "system disk", "cairn", "CAIRN"), of.imageName())
            .as(of.runId());
        work.ended(TestRuns.ended(asked, NOW, done ? Run.State.DONE : Run.State.FAILED, NOW, sentence), Took.NOTHING);
    }

    private static String why(org.junit.jupiter.api.function.Executable refused) {
        return assertThrows(Refused.class, refused).getMessage();
    }

    @Test
    void nothingIsSignedBeforeItIsDoneAndLookedAt() {
        Restoration one = asked(Restoration.Kind.RESTORE, "7K-0198-SP");
        assertTrue(why(() -> restorations.sign(one.id(), CHECKS, CHECKS, "", "ada")).contains("nothing to sign yet"));
        ended(one, true, "written");
        assertTrue(
            why(() -> restorations.sign(one.id(), List.of("It starts"), CHECKS, "", "ada")).contains("Not looked at yet: Log-in works"));
        verify(imageRecords, never()).signBooted(any(), anyString(), anyString());
        restorations.sign(one.id(), CHECKS, CHECKS, " well ", "ada");
        verify(imageRecords).signBooted(eq(imageId), contains("Restored onto Spare 1 for TRIPOD"), eq("ada"));
        assertEquals(List.of(), restorations.unsigned());
    }

    @Test
    void aSpareThatIsSignedProvesNoImage() {
        Restoration spare = asked(Restoration.Kind.SPARE, "7K-0198-SP");
        ended(spare, true, "copied");
        restorations.sign(spare.id(), CHECKS, CHECKS, "", "ada");
        verify(imageRecords, never()).signBooted(any(), anyString(), anyString());
        restorations.lieAt(spare.id(), " in the safe ", "ada");
        when(repository.findByKindAndStateAndRetiredAtIsNull(Restoration.Kind.SPARE, Restoration.State.DONE)).thenReturn(List.of(spare));
        RestorationRecords.Spare told = restorations.spares().get(0);
        assertTrue(told.booted() && told.place().equals("in the safe") && told.serial().equals("7K-0198-SP"));
    }

    /**
     * A failed restore taken off the list was journalled as a spare that is one no more, and a spare's signature as a computer that is
     * back.
     */
    @Test
    void theJournalSaysWhatHappenedToASpareAndToARestore() {
        Restoration failed = asked(Restoration.Kind.RESTORE, "7K-0198-SP");
        ended(failed, false, "Spare 1 died");
        restorations.retire(failed.id(), "ada");
        verify(journal).add(eq("ada"), eq("take note"), eq("TRIPOD"), eq(Journal.Result.NOTE),
            eq("ada took TRIPOD-1 onto Spare 1 (serial 7K-0198-SP) off the list; it did not come to its end."));
        Restoration spare = asked(Restoration.Kind.SPARE, "7K-0198-SP");
        ended(spare, true, "copied");
        restorations.sign(spare.id(), CHECKS, CHECKS, "", "ada");
        verify(journal).add(eq("ada"), eq("sign-off"), eq("TRIPOD"), eq(Journal.Result.DONE),
            eq("The spare of TRIPOD made of TRIPOD-1, Spare 1, is ready, looked at and signed by ada."), any());
        restorations.retire(spare.id(), "ada");
        verify(journal).add(eq("ada"), eq("retire spare"), eq("TRIPOD"), eq(Journal.Result.NOTE), contains("is a spare no more"));
    }

    @Test
    void onlyWhatFailedIsCarriedOnAndOnlyOntoTheSameDisk() throws IOException {
        Restoration one = asked(Restoration.Kind.RESTORE, "7K-0198-SP");
        assertTrue(why(() -> orders.carryOn(one.id(), "8-SP", Passphrase.NONE, "ada")).contains("did not fail"));
        ended(one, false, "Spare 1 died");
        assertTrue(restorations.unsigned().get(0).failed());
        when(images.shelved(imageId)).thenReturn(new Images.Shelved("TRIPOD-1", "TRIPOD", "tripod", "system disk", "s", "cairn", "CAIRN",
            100, false, "", Images.Format.GRANARY, UUID.randomUUID(), true));
        when(targets.confirmed(eq("spare-1"), anyString(), any(), any()))
            .thenReturn(new Overwriting.Confirmed("spare-1", new DiskIdentity("Aldine N1", "another", 120), List.of()));
        assertTrue(why(() -> orders.carryOn(one.id(), "ther", Passphrase.NONE, "ada"))
            .contains("Another disk is there now than the one that was begun with"));
        verify(queue, never()).add(any(), any(), any(), any(), any());
    }

    @Test
    void anImageThatCannotBeRestoredSaysWhy() {
        when(images.shelved(imageId)).thenReturn(new Images.Shelved("old", "TRIPOD", "tripod", "d", "s", "cairn", "CAIRN", 1, false, "",
            Images.Format.OTHER, UUID.randomUUID(), true));
        when(elsewhere.lacks(imageId)).thenReturn(Lacks.ALL_BUT_ONE);
        assertTrue(why(() -> sources.image(imageId, Passphrase.NONE)).contains("is an image of one partition, and no disk"));
        when(elsewhere.lacks(imageId)).thenReturn(Lacks.UNTOLD);
        assertTrue(why(() -> sources.image(imageId, Passphrase.NONE)).contains("nobody can tell what is in it"));
        when(elsewhere.lacks(imageId)).thenReturn(Lacks.NOTHING);
        when(images.shelved(imageId)).thenReturn(new Images.Shelved("old", "TRIPOD", "tripod", "d", "s", "cairn", "CAIRN", 1, false, "",
            Images.Format.GRANARY, UUID.randomUUID(), false));
        assertTrue(why(() -> sources.image(imageId, Passphrase.NONE)).contains("Take it back from the trash first"));
    }

    /** The guard of a spare lets itself be replaced by what is made of the same disk on the same spare, and by nothing else. */
    @Test
    void aSpareIsRefreshedOnlyAsItself() {
        Restoration spare = asked(Restoration.Kind.SPARE, "7K-0199-SP");
        ended(spare, true, "written");
        spare.lieAt("in the safe");
        DiskIdentity same = spare.target().identity();
        restorations.requireRefreshable(spare.id(), "tripod", same);
        assertTrue(why(() -> restorations.requireRefreshable(spare.id(), "ledger", same)).contains("not the spare"));
        assertTrue(why(() -> restorations.requireRefreshable(spare.id(), "tripod", new DiskIdentity("Aldine N1", "another", 120)))
            .contains("7K-0199-SP"));
        when(repository.findByTargetSerialAndTargetBytesAndStateAndRetiredAtIsNull(any(), anyLong(), any())).thenReturn(List.of(spare));
        WrittenDisks guard = new WrittenDisks(repository);
        assertTrue(guard.keptAs(same, Optional.empty()).isPresent());
        assertTrue(guard.keptAs(same, Optional.of(UUID.randomUUID())).isPresent());
        assertEquals(Optional.empty(), guard.keptAs(same, Optional.of(spare.id())));
        Restoration fresh = asked(Restoration.Kind.SPARE, "7K-0199-SP");
        restorations.replace(spare.id(), fresh.id());
        assertEquals("in the safe", fresh.place());
        assertTrue(spare.retiredAt() != null);
        assertTrue(why(() -> restorations.requireRefreshable(spare.id(), "tripod", same)).contains("make a new one"), "once");
    }
}
