package app.granary.core.estimate;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.apache.commons.statistics.distribution.TDistribution;
import org.junit.jupiter.api.Test;

class StratifiedTotalTest {
    /** NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.2: t(0.975; 10) = 2.228, t(0.975; 30) = 2.042, t(0.95; 10) = 1.812. */
    @Test
    void quantilesAgreeWithTheHandbook() {
        assertEquals(2.228, TDistribution.of(10).inverseCumulativeProbability(0.975), 0.0005);
        assertEquals(2.042, TDistribution.of(30).inverseCumulativeProbability(0.975), 0.0005);
        assertEquals(1.812, TDistribution.of(10).inverseCumulativeProbability(0.95), 0.0005);
    }

    /** Worked by hand: N = 10, sample 2, 4, 6: mean 4, s2 = 4, variance of total = 100 x 4/3 x 0.7, t(0.95; 2) = 2.920 (same table). */
    @Test
    void oneStratumByHand() {
        StratifiedTotal total = StratifiedTotal.of(List.of(new Stratum("x", 10, List.of(2L, 4L, 6L))));
        assertEquals(40, total.likely(), 1e-9);
        assertEquals(Math.sqrt(100 * 4.0 / 3 * 0.7), total.standardError(), 1e-9);
        assertEquals(2, total.degreesOfFreedom(), 1e-9);
        assertEquals(40 + 2.920 * total.standardError(), total.high(), 0.01);
        assertEquals(12, total.low(), 0.01, "40 - 2.920 x 9.66 = 11.8 would be less than the 12 that were seen");
    }

    /** One chunk of ten: likely ten times it, and a range so wide that it says how little is known: t(0.95; 1) = 6.314 (same table). */
    @Test
    void oneChunkClaimsNoCertainty() {
        StratifiedTotal total = StratifiedTotal.of(List.of(new Stratum("x", 10, List.of(500L))));
        assertEquals(5000, total.likely(), 1e-9);
        assertEquals(1, total.degreesOfFreedom(), 1e-9);
        assertEquals(5000 + 6.314 * Math.sqrt(100 * 250_000 * 0.9), total.high(), 10);
        assertEquals(500, total.low(), "never below what was seen");
        assertEquals(0, StratifiedTotal.of(List.of(new Stratum("x", 1, List.of(500L)))).standardError(),
            "the only one there is leaves nothing to chance");
        assertEquals(0, StratifiedTotal.of(List.of()).high(), "nothing used weighs nothing");
    }

    @Test
    void nothingIsLeftToChanceWhenAllWasCounted() {
        StratifiedTotal total = StratifiedTotal.of(List.of(new Stratum("a", 3, List.of(5L, 6L, 7L)), new Stratum("b", 0, List.of())));
        assertEquals(18, total.low());
        assertEquals(18, total.likely());
        assertEquals(18, total.high());
    }

    @Test
    void aSampleLargerThanItsPopulationIsAProgrammingMistake() {
        assertThrows(IllegalArgumentException.class, () -> new Stratum("a", 1, List.of(1L, 2L)));
        assertThrows(IllegalArgumentException.class, () -> new Stratum("a", 1, List.of()));
    }

    /** Over many made-up disks the truth lies within low and high at least 85 times in 100, as it should nine times in ten. */
    @Test
    void theTruthLiesInsideNineTimesInTen() {
        Random random = new Random(11);
        int inside = 0;
        int disks = 600;
        for (int disk = 0; disk < disks; disk++) {
            List<Stratum> strata = new ArrayList<>();
            double truth = 0;
            for (int s = 0; s < 3; s++) {
                List<Long> population = new ArrayList<>();
                double dense = random.nextDouble();
                for (int i = 0; i < 400; i++) {
                    population
                        .add((long) (random.nextDouble() < dense ? 1_000_000 + random.nextInt(48_000) : 50 + random.nextInt(600_000)));
                }
                truth += population.stream().mapToLong(Long::longValue).sum();
                Collections.shuffle(population, random);
                strata.add(new Stratum("s" + s, population.size(), population.subList(0, 25)));
            }
            StratifiedTotal total = StratifiedTotal.of(strata);
            inside += total.low() <= truth && truth <= total.high() ? 1 : 0;
        }
        assertTrue(inside >= 0.85 * disks && inside <= 0.96 * disks, inside + " of " + disks);
    }
}
