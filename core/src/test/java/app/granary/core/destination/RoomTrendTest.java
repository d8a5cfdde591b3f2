package app.granary.core.destination;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RoomTrendTest {
    @Test
    void aSteadyDriveIsFullOnTheDayDivisionGives() {
        RoomTrend trend = RoomTrend
            .of(List.of(new RoomTrend.Reading(0, 100), new RoomTrend.Reading(10, 200), new RoomTrend.Reading(20, 300)), 500).orElseThrow();
        assertEquals(10, trend.bytesPerDay(), 1e-9);
        assertEquals(50, trend.days().orElseThrow(), 1e-9);
        assertEquals(50, trend.daysLow().orElseThrow(), 1e-6, "readings on a line leave no doubt");
    }

    /** By hand; t(0.95; 1) = 6.314 (NIST/SEMATECH e-Handbook, 1.3.6.7.2, from memory). */
    @Test
    void theIntervalIsStudents() {
        // y = 0, 0, 3 at 0, 1, 2: slope 1.5, residuals 0.5, -1, 0.5, s^2 = 1.5, across = 2
        RoomTrend trend = RoomTrend.of(List.of(new RoomTrend.Reading(0, 0), new RoomTrend.Reading(1, 0), new RoomTrend.Reading(2, 3)), 100)
            .orElseThrow();
        assertEquals(1.5, trend.bytesPerDay(), 1e-9);
        assertEquals(100 / (1.5 + 6.314 * Math.sqrt(1.5 / 2)), trend.daysLow().orElseThrow(), 0.01);
        assertEquals(Optional.empty(), trend.daysHigh(), "it may as well not grow");
    }

    @Test
    void whatDoesNotGrowIsNeverFullAndTooLittleTellsNothing() {
        assertEquals(Optional.empty(), RoomTrend.of(List.of(new RoomTrend.Reading(0, 5), new RoomTrend.Reading(1, 6)), 9));
        assertEquals(Optional.empty(),
            RoomTrend.of(List.of(new RoomTrend.Reading(1, 5), new RoomTrend.Reading(1, 6), new RoomTrend.Reading(1, 7)), 9));
        assertEquals(Optional.empty(), RoomTrend
            .of(List.of(new RoomTrend.Reading(0, 9), new RoomTrend.Reading(1, 6), new RoomTrend.Reading(2, 3)), 9).orElseThrow().days());
        assertEquals(0, RoomTrend.of(List.of(new RoomTrend.Reading(0, 1), new RoomTrend.Reading(1, 2), new RoomTrend.Reading(2, 3)), -5)
            .orElseThrow().days().orElseThrow(), 0, "full already");
    }

    /** Property: over made-up drives that grow with noise, the true day lies within low and high at least 85 times in 100. */
    @Test
    void theTrueDayLiesWithin() {
        Random random = new Random(12);
        int inside = 0;
        for (int round = 0; round < 400; round++) {
            double growth = 5 + random.nextDouble() * 20;
            List<RoomTrend.Reading> readings = new ArrayList<>();
            for (int day = 0; day < 60; day += 5) {
                readings.add(new RoomTrend.Reading(day, Math.round(1000 + growth * day + random.nextGaussian() * 40)));
            }
            RoomTrend trend = RoomTrend.of(readings, 10_000).orElseThrow();
            double truth = 10_000 / growth;
            inside += trend.daysLow().orElse(0.0) <= truth && truth <= trend.daysHigh().orElse(Double.MAX_VALUE) ? 1 : 0;
        }
        assertTrue(inside >= 340, inside + " of 400");
    }
}
