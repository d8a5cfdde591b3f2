package app.granary.server.office;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.plan.OfficeCalendar;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class OfficeHoursTest {
    @Test
    void usualHoursStandUntilAPersonSaysOtherwise() {
        OfficeHours hours = OfficeHours.usual(ZoneId.of("Europe/Berlin"));
        assertEquals(Set.of(DayOfWeek.MONDAY, DayOfWeek.TUESDAY, DayOfWeek.WEDNESDAY, DayOfWeek.THURSDAY, DayOfWeek.FRIDAY),
            hours.calendar().workingDays());
        assertEquals(LocalTime.of(18, 0), hours.calendar().closes());
        assertEquals(Map.of(), hours.closedDays());
    }

    @Test
    void whatIsSaidComesBackInOrderAlsoDaysWithoutANote() {
        OfficeHours hours = OfficeHours.usual(ZoneId.of("UTC"));
        LocalDate eve = LocalDate.parse("2026-12-24");
        LocalDate may = LocalDate.parse("2026-05-01");
        OfficeCalendar said = new OfficeCalendar(ZoneId.of("Asia/Kathmandu"), LocalTime.of(7, 30), LocalTime.of(16, 15),
            Set.of(DayOfWeek.SUNDAY, DayOfWeek.MONDAY), Set.of(eve, may));
        hours.describe(said, Map.of(eve, "Christmas Eve, half the office", may, ""), true, 25, 0);
        assertEquals(said, hours.calendar());
        assertEquals(List.of(may, eve), List.copyOf(hours.closedDays().keySet()));
        assertEquals("", hours.closedDays().get(may));
        assertEquals("Christmas Eve, half the office", hours.closedDays().get(eve));
        assertEquals(25, hours.bootMinutes());
        assertEquals(0, hours.leadMinutes());
    }
}
