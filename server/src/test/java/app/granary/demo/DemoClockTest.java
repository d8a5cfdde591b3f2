package app.granary.demo;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DemoClockTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/London");

    @ParameterizedTest
    @CsvSource(nullValues = "-", value = {
        "2026-11-28T21:00:00Z, -, 2026-11-24T14:40:00Z",
        "2026-11-24T14:39:00Z, -, 2026-11-17T14:40:00Z",
        "2026-11-28T21:00:00Z, 2026-11-24T15:10:00Z, 2026-11-24T15:11:00Z",
        "2026-11-28T21:00:00Z, 2026-11-24T18:10:00Z, 2026-11-25T14:40:00Z",
        "2026-11-28T21:00:00Z, 2026-11-27T22:10:00Z, 2026-11-30T14:40:00Z",
        "2026-12-03T09:00:00Z, 2026-11-24T15:10:00Z, 2026-12-01T14:40:00Z"})
    void itIsAWorkingAfternoon(Instant real, Instant last, Instant shows) {
        assertEquals(shows, DemoClock.shows(real, ZONE, Optional.ofNullable(last)));
    }

    /** Started again and again at any hour, across the changes of the clock: always a working afternoon, never back. */
    @Test
    void itNeverGoesBack() {
        Random random = new Random(7);
        Instant real = Instant.parse("2026-02-01T00:00:00Z");
        Optional<Instant> last = Optional.empty();
        for (int i = 0; i < 5000; i++) {
            Instant shows = DemoClock.shows(real, ZONE, last);
            ZonedDateTime local = shows.atZone(ZONE);
            assertTrue(last.isEmpty() || shows.isAfter(last.get()), "back from " + last + " to " + shows);
            assertTrue(local.getDayOfWeek() != DayOfWeek.SATURDAY && local.getDayOfWeek() != DayOfWeek.SUNDAY
                && (local.getHour() == 14 && local.getMinute() >= 40 || local.getHour() == 15 || local.getHour() == 16), "" + local);
            long ran = random.nextInt(4 * 3600);
            last = Optional.of(shows.plusSeconds(ran));
            real = real.plusSeconds(ran + random.nextInt(3 * 24 * 3600));
        }
    }
}
