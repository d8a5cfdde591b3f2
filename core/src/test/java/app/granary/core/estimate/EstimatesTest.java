package app.granary.core.estimate;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.List;
import org.junit.jupiter.api.Test;

class EstimatesTest {
    private static final SizeEstimate.Overhead OVERHEAD = new SizeEstimate.Overhead(1000, 10, 30);

    @Test
    void whatWasCountedIsOnlyAsUncertainAsItsIndex() {
        SizeEstimate counted = SizeEstimate.of(List.of(new Stratum("a", 2, List.of(500L, 700L))), 9000, 9000, OVERHEAD);
        assertEquals(SizeEstimate.Basis.COUNTED, counted.basis());
        assertEquals(1200 + 1000 + 10, counted.lowBytes());
        assertEquals(1200 + 1000 + 20, counted.likelyBytes());
        assertEquals(1200 + 1000 + 30, counted.highBytes());
    }

    @Test
    void aSampleIsWiderAndSaysSo() {
        SizeEstimate sampled = SizeEstimate.of(List.of(new Stratum("a", 100, List.of(500L, 700L, 600L))), 9000, 270, OVERHEAD);
        assertEquals(SizeEstimate.Basis.SAMPLE, sampled.basis());
        assertEquals("sample", sampled.basis().word());
        assertTrue(sampled.lowBytes() < 60_000 && sampled.highBytes() > 62_000);
        assertEquals(61_020, sampled.likelyBytes());
    }

    @Test
    void withoutCompressionTheSizeIsKnown() {
        SizeEstimate parts = SizeEstimate.exact(1_000_000, 1_000_000, new SizeEstimate.Overhead(0, 0, 0)).inParts(100_000);
        assertEquals(1_000_000 + 10 * 120, parts.lowBytes(), "ten parts at least");
        assertEquals(1_000_000 + 22 * 160, parts.highBytes(), "each at least half full");
        SizeEstimate exact = SizeEstimate.exact(9000, 100_000, new SizeEstimate.Overhead(0, 10, 30));
        assertEquals(List.of(100_010L, 100_020L, 100_030L), List.of(exact.lowBytes(), exact.likelyBytes(), exact.highBytes()));
        assertEquals("exact", exact.basis().word());
    }

    /**
     * Stages overlap, so the slowest sets the time, and reading back follows: 40 GB over USB 3 at 400 MB/s take 100 s, and as long again.
     * Effective rates: common practice, no source.
     */
    @Test
    void theSlowestStageSetsTheTime() {
        SizeEstimate size = SizeEstimate.exact(40_000_000_000L, 40_000_000_000L, new SizeEstimate.Overhead(0, 0, 0));
        TimeEstimate time = TimeEstimate.of(size, 550_000_000, 800_000_000, 400_000_000);
        assertEquals("write", time.slowest());
        assertEquals(List.of("read", "compress", "write", "read back"), time.stages().stream().map(TimeEstimate.Stage::name).toList());
        assertEquals(100, time.stages().get(2).seconds(), 1e-9);
        assertEquals(180, time.lowSeconds(), 1e-6);
        assertEquals(250, time.highSeconds(), 1e-6);
        assertEquals("compress", TimeEstimate.of(size, 550_000_000, 100_000_000, 400_000_000).slowest());
        assertEquals("read", TimeEstimate.of(size, 35_000_000, 100_000_000, 400_000_000).slowest());
    }
}
