package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.estimate.RunCorrection;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class RunTimesTest {
    private final RunRepository runs = mock(RunRepository.class);
    private final RunTimes times = new RunTimes(runs);

    private static Run took(long seconds) {
        Run run = LiveRunTest.thoughtToTake100Seconds();
        run.end(Run.State.DONE, Instant.EPOCH.plusSeconds(seconds), "made");
        return run;
    }

    /** Thought by its rates to take 107.5 s, the middle of 90 to 125. */
    @Test
    void aDisksOwnRunsThereCountAndOthersOnlyWithoutThem() {
        when(runs.findByKindAndStateAndDestinationIdAndCodecOrderByEndedAtDesc(any(), any(), eq("p"), eq("zstd"), any())).thenReturn(List.of(took(215)));
        assertEquals(RunCorrection.of(List.of(2.0)), times.correction("d", "p", "zstd"));
        when(runs.findByKindAndStateAndDestinationIdAndCodecAndDiskIdOrderByEndedAtDesc(any(), any(), eq("p"), eq("zstd"), eq("d"), any())).thenReturn(List.of(took(129), took(43)));
        assertEquals(RunCorrection.of(List.of(1.2, 0.4)), times.correction("d", "p", "zstd"));
        assertEquals(RunCorrection.NONE, times.correction("d", "elsewhere", "zstd"));
    }

    @Test
    void aCheckTeachesNothing() {
        Run check = Run.check(null, "DATUM", "d", "disk 1", "p", "PEG-1", "night", 9, Instant.EPOCH, "ada");
        check.end(Run.State.DONE, Instant.EPOCH.plusSeconds(9), "sound");
        when(runs.findByKindAndStateAndDestinationIdAndCodecOrderByEndedAtDesc(any(), any(), any(), any(), any())).thenReturn(List.of(check));
        assertEquals(RunCorrection.NONE, times.correction("d", "p", ""));
    }
}
