package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.estimate.RunCorrection;
import app.granary.server.image.Images;
import java.time.Instant;
import java.util.UUID;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RunTimesTest {
    private final RunRepository runs = mock(RunRepository.class);
    private final RunTimes times = new RunTimes(runs);

    private static Run took(long seconds) {
        Run run = LiveRunTest.thoughtToTake100Seconds();
        run.end(Run.State.DONE, Instant.EPOCH.plusSeconds(seconds), "made");
        return run;
    }

    private void finished(Run... newestFirst) {
        when(runs.findByKindAndStateAndCodecOrderByEndedAtDesc(any(), any(), eq("zstd"), any())).thenReturn(List.of(newestFirst));
    }

    /** Thought by its rates to take 107.5 s, the middle of 90 to 125. */
    @Test
    void aDisksOwnRunsThereCountAndOthersOnlyWithoutThem() {
        finished(took(215));
        assertEquals(Map.of("p", RunCorrection.of(List.of(2.0))), times.corrections("another", "zstd"));
        finished(took(129), took(43));
        assertEquals(Map.of("p", RunCorrection.of(List.of(1.2, 0.4))), times.corrections("d", "zstd"));
        assertEquals(Map.of(), times.corrections("d", "xz"));
    }

    @Test
    void whatHasNoTimeTeachesNothing() {
        Run check = Run.ofImage(Run.Kind.CHECK, null, new Images.Shelved("night", "DATUM", "d", "disk 1", "s", "p", "PEG-1", 9, false, "", Images.Format.GRANARY, new UUID(0, 1), true), Instant.EPOCH, "ada");
        check.end(Run.State.DONE, Instant.EPOCH.plusSeconds(9), "sound");
        finished(check);
        Run back = took(60);
        back.end(Run.State.DONE, back.begunAt().minusSeconds(3600), "Image made.");
        assertEquals("Image made. The clock was set back while this ran: set it right, and mind the date of what was made.", back.outcome());
        finished(check, back);
        assertEquals(RunCorrection.NONE, times.corrections("d", "zstd").get("p"));
    }
}
