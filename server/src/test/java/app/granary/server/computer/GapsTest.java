package app.granary.server.computer;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.fault.Fault;
import app.granary.engine.host.Devices;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class GapsTest {
    /** Each visit of a computer's page read its disks, whoever came. */
    @Test
    void whoLooksAgainAndAgainDoesNotReadTheDiskEachTime() throws Exception {
        Devices devices = mock(Devices.class);
        Clock clock = mock(Clock.class);
        Instant now = Instant.parse("2026-11-27T10:00:00Z");
        when(clock.instant()).thenReturn(now);
        when(devices.survey(any(), any())).thenThrow(Fault.of(Fault.Kind.NOT_RECOGNISED, "d", "The disk is not attached.").asException());
        Gaps gaps = new Gaps(devices, clock);
        IntStream.range(0, 200).parallel().forEach(visit -> assertEquals(List.of(), gaps.of("d")));
        verify(devices, times(1)).survey(any(), any());
        when(clock.instant()).thenReturn(now.plus(Gaps.STANDS));
        gaps.of("d");
        verify(devices, times(2)).survey(any(), any());
    }
}
