package app.granary.server.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.RETURNS_DEEP_STUBS;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.plan.Afterwards;
import app.granary.core.plan.FolderPattern;
import app.granary.core.plan.NamingPattern;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanDestination;
import app.granary.core.plan.PlanSource;
import app.granary.core.plan.Storing;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.estimate.Prospect;
import app.granary.server.image.Images;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import org.springframework.http.HttpStatus;

class PlanRunsTest {
    private static final UUID PLAN = new UUID(7, 7);
    private static final Refused SHORT = new Refused(HttpStatus.CONFLICT, "unfit-room", "", "PEG-2 is 3 GB short.");
    private final Plans plans = mock(Plans.class);
    private final Images images = mock(Images.class);
    private final Preflights preflights = mock(Preflights.class);
    private final Captures captures = mock(Captures.class);
    private final PlanRuns runs = new PlanRuns(plans, images, preflights, captures);
    private final Prospect prospect = mock(Prospect.class, RETURNS_DEEP_STUBS);

    @BeforeEach
    void drivesInTurn() throws Exception {
        when(images.newestByDestination("tripod")).thenReturn(Map.of("peg-1", Instant.parse("2026-11-25T18:00:00Z"), "peg-2",
            Instant.parse("2026-11-18T18:00:00Z")));
        when(preflights.look(any(), any(), any(), any())).thenReturn(prospect);
        when(prospect.to(any()).destination().name()).thenReturn("PEG-1");
        when(captures.queueNow(any(), any())).thenReturn(mock(Run.class));
    }

    private void plan(boolean encrypted) {
        Plan plan = new Plan("TRIPOD weekly", PlanSource.of("tripod", "TRIPOD", "system disk", new DiskIdentity("m", "s", 1), Set.of(4)),
            new Storing("zstd", 3, OptionalLong.empty(), false, false, encrypted),
            List.of(new PlanDestination("peg-1", "PEG-1"), new PlanDestination("peg-2", "PEG-2")), true, null, null, false,
            new NamingPattern("{computer}"), FolderPattern.NONE, 90, Afterwards.OFF, List.of(), null, List.of(), "");
        when(plans.one(PLAN)).thenReturn(new Plans.Saved(PLAN, plan, LocalDate.of(2026, 1, 1), false, 1));
    }

    @Test
    void theDriveWhoseTurnItIsComesFirstAndTheNextWhereItDoesNotFit() throws Exception {
        plan(false);
        runs.now(PLAN, Passphrase.NONE, "ada");
        ArgumentCaptor<Captures.Planned> asked = ArgumentCaptor.forClass(Captures.Planned.class);
        verify(captures).queueNow(asked.capture(), eq("ada"));
        assertEquals("peg-2", asked.getValue().destinationId(), "its image is the oldest");
        assertEquals(Set.of(4), asked.getValue().storage().choice().without());
        assertEquals("off", asked.getValue().then().computer().word());
        when(preflights.look(any(), eq("peg-2"), any(), any())).thenThrow(SHORT);
        assertEquals("PEG-1", runs.now(PLAN, Passphrase.NONE, "ada").destination());
        when(preflights.look(any(), eq("peg-1"), any(), any())).thenThrow(new Refused(HttpStatus.CONFLICT, "in-use", "", "It is in use."));
        assertEquals("PEG-2 is 3 GB short. It is in use.", assertThrows(Refused.class, () -> runs.now(PLAN, Passphrase.NONE, "ada"))
            .getMessage());
    }

    @Test
    void oneThatIsEncryptedWantsItsPassphrase() throws Exception {
        plan(true);
        assertTrue(assertThrows(Refused.class, () -> runs.now(PLAN, Passphrase.NONE, "ada")).getMessage()
            .contains("Enter its passphrase."));
        runs.now(PLAN, Passphrase.of("chain and offset".toCharArray()), "ada");
        verify(captures).queueNow(any(), eq("ada"));
    }
}
