package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class PastUseTest {
    private static final Instant NOW = Instant.parse("2026-11-24T12:00:00Z");

    @Test
    void aPastLeadsUpToTodayAndFitsOnTheDisk() {
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            long now = disk.realBytes() * disk.scale() * 9 / 10;
            List<PastReading> past = PastUse.of(disk, now, NOW);
            assertEquals(PastUse.of(disk, now, NOW), past, "the same on every start of a day");
            assertEquals(NOW.minus(Duration.ofDays(91)), past.get(0).at());
            assertEquals(NOW.minus(Duration.ofDays(7)), past.get(past.size() - 1).at());
            for (PastReading each : past) {
                assertTrue(each.usedBytes() > now / 2 && each.usedBytes() <= disk.realBytes() * disk.scale(), each.toString());
            }
        }
    }
}
