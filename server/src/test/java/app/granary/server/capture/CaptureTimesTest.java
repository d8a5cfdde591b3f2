package app.granary.server.capture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.core.estimate.RunCorrection;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class CaptureTimesTest {
    private final CaptureTimeRepository repository = mock(CaptureTimeRepository.class);
    private final CaptureTimes times = new CaptureTimes(repository);

    private static CaptureTimeRepository.Done took(long seconds, double estimated) {
        return new CaptureTimeRepository.Done("p", "d", Instant.EPOCH, Instant.EPOCH.plusSeconds(seconds), estimated);
    }

    private void finished(CaptureTimeRepository.Done... newestFirst) {
        when(repository.done(eq("zstd"), any())).thenReturn(List.of(newestFirst));
    }

    @Test
    void aDisksOwnCapturesThereCountAndOthersOnlyWithoutThem() {
        finished(took(215, 107.5));
        assertEquals(Map.of("p", RunCorrection.of(List.of(2.0))), times.corrections("another", "zstd"));
        finished(took(129, 107.5), took(43, 107.5),
            new CaptureTimeRepository.Done("p", "another", Instant.EPOCH, Instant.EPOCH.plusSeconds(9), 1));
        assertEquals(Map.of("p", RunCorrection.of(List.of(1.2, 0.4))), times.corrections("d", "zstd"));
        assertEquals(Map.of(), times.corrections("d", "xz"));
    }

    @Test
    void whatHasNoTimeTeachesNothing() {
        finished(took(9, 0), took(-3600, 100));
        assertEquals(RunCorrection.NONE, times.corrections("d", "zstd").get("p"));
    }
}
