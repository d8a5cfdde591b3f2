package app.granary.core.estimate;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class TimeLeftTest {
    /**
     * Property: whatever the rate does, the middle never moves further than the range that was shown is wide, and the range is narrow in
     * the end.
     */
    @Test
    void itNarrowsAndNeverJumpsFurtherThanItShowed() {
        SplittableRandom random = new SplittableRandom(3);
        for (int round = 0; round < 300; round++) {
            double truth = 60 + random.nextDouble() * 4000;
            double thought = truth * (0.4 + random.nextDouble() * 1.6);
            TimeLeft shown = new TimeLeft(thought * 0.8, thought * 1.3);
            for (double t = 1; t < truth; t += truth / 200) {
                double byRate = (truth - t) * (0.7 + random.nextDouble() * 0.6);
                TimeLeft next = shown.next(truth / 200, byRate, t / truth);
                double before = Math.max(0, (shown.lowSeconds() + shown.highSeconds()) / 2 - truth / 200);
                double moved = Math.abs((next.lowSeconds() + next.highSeconds()) / 2 - before);
                assertTrue(moved <= Math.max(1, shown.highSeconds() - shown.lowSeconds()) + 1e-6, moved + " of " + shown);
                shown = next;
            }
            assertTrue(shown.highSeconds() <= 0.2 * truth, shown + " at the end of " + truth);
        }
    }

    @Test
    void aRangeRunsUpwardsFromNothing() {
        assertThrows(IllegalArgumentException.class, () -> new TimeLeft(3, 2));
        assertThrows(IllegalArgumentException.class, () -> new TimeLeft(Double.NaN, 2));
        assertEquals(0, new TimeLeft(0, 0).next(100, 0, 1).highSeconds());
    }

    @Test
    void whatDiffersFromWhatWasThoughtIsTheStageThatMadeIt() {
        assertEquals("It took about as long as estimated.", new RunComparison(100, 50, 110, 55, "write").sentence());
        assertEquals("It took about as long as estimated.", new RunComparison(1, 1, 2, 1.5, "write").sentence(),
            "a second is no difference");
        assertEquals(
            "It took 2 min longer than estimated: reading, compressing and writing took 4 min instead of 2 min (2.0 times). The write step "
                + "was expected to set the pace.",
            new RunComparison(120, 60, 240, 65, "write").sentence());
        assertEquals("It took 50 s less than estimated: reading back took 10 s instead of 60 s (0.2 times).",
            new RunComparison(120, 60, 120, 10, "read").sentence());
        assertEquals("It took about as long as estimated.", new RunComparison(0, 0, 9, 9, "").sentence(), "nothing was thought");
    }
}
