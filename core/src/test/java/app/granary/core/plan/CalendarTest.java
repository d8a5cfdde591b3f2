package app.granary.core.plan;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.night.Span;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Windows and due dates in an office's time zone. Clocks there go from 02:00 to 03:00 on 28 March 2027 and from 03:00 back to 02:00 on 25
 * October 2026 (Directive 2000/84/EC: last Sunday of March and of October, 01:00 UTC; the same as {@code zdump -v Europe/Berlin} prints).
 */
class CalendarTest {
    private static final OfficeCalendar OFFICE = office(Set.of());

    private static OfficeCalendar office(Set<LocalDate> closed) {
        return new OfficeCalendar(ZoneId.of("Europe/Berlin"), LocalTime.of(8, 0), LocalTime.of(18, 30),
            EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY), closed);
    }

    @ParameterizedTest
    @CsvSource({
        // ordinary, across midnight, in the small hours, all day
        "2026-11-24, 18:30, 23:00, 2026-11-24T17:30:00Z, 2026-11-24T22:00:00Z",
        "2026-11-24, 18:30, 07:00, 2026-11-24T17:30:00Z, 2026-11-25T06:00:00Z",
        "2026-11-24, 02:00, 05:00, 2026-11-25T01:00:00Z, 2026-11-25T04:00:00Z",
        "2026-11-24, 18:00, 18:00, 2026-11-24T17:00:00Z, 2026-11-25T17:00:00Z",
        // the night in which clocks leap forward: an hour less; a beginning or end that does not exist is the moment of the change
        "2027-03-27, 18:30, 07:00, 2027-03-27T17:30:00Z, 2027-03-28T05:00:00Z",
        "2027-03-27, 02:30, 05:00, 2027-03-28T01:00:00Z, 2027-03-28T03:00:00Z",
        "2027-03-27, 01:00, 02:15, 2027-03-28T00:00:00Z, 2027-03-28T01:00:00Z",
        // the night in which they go back: an hour more; what exists twice opens first and closes second
        "2026-10-24, 18:30, 07:00, 2026-10-24T16:30:00Z, 2026-10-25T06:00:00Z",
        "2026-10-24, 02:15, 02:45, 2026-10-25T00:15:00Z, 2026-10-25T01:45:00Z"})
    void aWindowLiesWhereTheClockOnTheWallSays(LocalDate night, LocalTime from, LocalTime to, Instant opens, Instant closes) {
        assertEquals(Optional.of(new Span(opens, closes)), new Window(from, to).on(night, OFFICE));
    }

    @Test
    void aWindowTheClocksLeapOverDoesNotExistThatNight() {
        assertEquals(Optional.empty(), new Window(LocalTime.of(2, 15), LocalTime.of(2, 45)).on(LocalDate.parse("2027-03-27"), OFFICE));
        Plan plan = Plans.of(new Rhythm.Days(1), "02:15", "02:45", false);
        // the night of the 27th moves to the 28th, where one is due anyway
        assertEquals(days("2027-03-26 2027-03-28 2027-03-29"),
            new DueDates(plan, LocalDate.parse("2027-01-01"), OFFICE).from(LocalDate.parse("2027-03-26"), 3));
    }

    private static List<LocalDate> days(String text) {
        return text.isEmpty() ? List.of() : Arrays.stream(text.split(" ")).map(LocalDate::parse).toList();
    }

    private static Rhythm rhythm(String text) {
        String[] words = text.split(" ");
        return switch (words[0]) {
            case "days" -> new Rhythm.Days(Integer.parseInt(words[1]));
            case "monthly" -> new Rhythm.Monthly(Integer.parseInt(words[1]));
            case "weekly" -> Rhythm.Weekly.on(Arrays.stream(words).skip(1).map(DayOfWeek::valueOf).collect(Collectors.toSet()));
            default -> new Rhythm.ByHand();
        };
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "weekly TUESDAY | every Tuesday | 2026-11-24 2026-12-01 2026-12-08 | 7",
        "weekly MONDAY THURSDAY | every Monday and Thursday | 2026-11-26 2026-11-30 2026-12-03 | 4",
        "weekly MONDAY TUESDAY WEDNESDAY THURSDAY FRIDAY | every weekday | 2026-11-24 2026-11-25 2026-11-26 | 3",
        // Sunday is closed, so it moves to Monday
        "weekly SUNDAY | every Sunday | 2026-11-30 2026-12-07 2026-12-14 | 7",
        "days 14 | every 14 days | 2026-11-30 2026-12-14 2026-12-28 | 14",
        "monthly 31 | on the last day of every month | 2026-11-30 2026-12-31 2027-02-01 | 31",
        "monthly 1 | on day 1 of every month | 2026-12-01 2027-01-01 2027-02-01 | 31",
        "hand | only when asked for | '' | 0"})
    void dueDatesFollowTheRhythmAndMoveToOpenDays(String text, String words, String dates, int gap) {
        Rhythm rhythm = rhythm(text);
        assertEquals(words, rhythm.words());
        assertEquals(gap, rhythm.longestGapDays());
        assertEquals(days(dates), new DueDates(Plans.of(rhythm, "18:30", "07:00", true), LocalDate.parse("2026-11-01"), OFFICE)
            .from(LocalDate.parse("2026-11-24"), 3));
    }

    @Test
    void closedDaysMoveWhatNeedsAPersonAndNothingElse() {
        OfficeCalendar closed = office(Set.of(LocalDate.parse("2026-12-24"), LocalDate.parse("2026-12-25"), LocalDate.parse("2026-12-28")));
        Plan person = Plans.of(new Rhythm.Days(1), "18:30", "07:00", true);
        Plan server = Plans.of(new Rhythm.Days(1), "18:30", "07:00", false);
        LocalDate began = LocalDate.parse("2026-11-01");
        assertEquals(days("2026-12-29 2026-12-30"), new DueDates(person, began, closed).from(LocalDate.parse("2026-12-24"), 2));
        assertEquals(days("2026-12-24 2026-12-25"), new DueDates(server, began, closed).from(LocalDate.parse("2026-12-24"), 2));
        OfficeCalendar never = new OfficeCalendar(closed.zone(), closed.opens(), closed.closes(), Set.of(DayOfWeek.MONDAY),
            LocalDate.parse("2026-01-01").datesUntil(LocalDate.parse("2031-12-31")).collect(Collectors.toSet()));
        assertEquals(List.of(), new DueDates(person, began, never).from(LocalDate.parse("2026-12-24"), 2));
    }

    @Test
    void theNextDateIsTheFirstAfterTheNewestImage() {
        DueDates due = new DueDates(Plans.of(new Rhythm.Days(7), "18:30", "07:00", true), LocalDate.parse("2026-11-03"), OFFICE);
        assertEquals(Optional.of(LocalDate.parse("2026-11-03")), due.next(Optional.empty()));
        assertEquals(Optional.of(LocalDate.parse("2026-11-10")), due.next(Optional.of(LocalDate.parse("2026-11-05"))));
        assertEquals(Optional.of(LocalDate.parse("2026-11-17")), due.next(Optional.of(LocalDate.parse("2026-11-10"))));
    }

    @Test
    void aTimeOfANightIsThatOfItsEveningOrOfTheMorningAfter() {
        assertEquals(Instant.parse("2026-11-24T17:30:00Z"), OFFICE.moment(LocalDate.parse("2026-11-24"), LocalTime.of(18, 30)));
        assertEquals(Instant.parse("2026-11-25T01:00:00Z"), OFFICE.moment(LocalDate.parse("2026-11-24"), LocalTime.of(2, 0)));
        assertEquals(Instant.parse("2027-03-28T01:00:00Z"), OFFICE.moment(LocalDate.parse("2027-03-27"), LocalTime.of(2, 30)));
    }

    @Test
    void aNightLastsUntilTheOfficeOpens() {
        assertEquals(LocalDate.parse("2026-11-24"), OFFICE.nightOf(Instant.parse("2026-11-25T06:59:59Z")));
        assertEquals(LocalDate.parse("2026-11-25"), OFFICE.nightOf(Instant.parse("2026-11-25T07:00:00Z")));
        assertEquals(Duration.ofHours(23),
            Duration.between(OFFICE.opening(LocalDate.parse("2027-03-27")), OFFICE.opening(LocalDate.parse("2027-03-28"))));
    }
}
