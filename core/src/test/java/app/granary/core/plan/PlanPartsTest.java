package app.granary.core.plan;

import app.granary.core.retention.Keep;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.night.Span;
import app.granary.core.night.Way;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.function.Executable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PlanPartsTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {"0 0 0 0 0 | all", "3 0 0 0 0 | the last 3", "0 7 4 12 0 | 7 days, 4 weeks, 12 months",
        "1 1 1 1 1 | the last 1, 1 day, 1 week, 1 month, 1 year"})
    void whatIsKeptReadsAsWords(String counts, String words) {
        int[] n = java.util.Arrays.stream(counts.split(" ")).mapToInt(Integer::parseInt).toArray();
        assertEquals(words, new Keep(n[0], n[1], n[2], n[3], n[4]).words());
    }

    @Test
    void whatCannotBeIsAProgrammingMistakeAtOnce() {
        Instant now = Instant.EPOCH;
        LocalTime eight = LocalTime.of(8, 0);
        for (Executable wrong : List.<Executable>of(() -> new Rhythm.Days(0), () -> new Rhythm.Days(366), () -> new Rhythm.Monthly(0),
            () -> new Rhythm.Monthly(32), () -> new Rhythm.Weekly(new TreeSet<>()),
            () -> new Span(now, now), () -> new Way("d", 3, 2, 4, 0), () -> new Way("d", 1, 2, 1, 0), () -> new Way("d", -1, 2, 3, 0),
            () -> new Way("d", 1, 2, 3, -1),
            () -> new OfficeCalendar(ZoneId.of("UTC"), eight, eight, Set.of(DayOfWeek.MONDAY), Set.of()),
            () -> new OfficeCalendar(ZoneId.of("UTC"), eight, LocalTime.NOON, Set.of(), Set.of()))) {
            assertThrows(IllegalArgumentException.class, wrong);
        }
    }

    @Test
    void wordsOfTheWireAreReadBack() {
        for (Afterwards each : Afterwards.values()) {
            assertEquals(Optional.of(each), Afterwards.parse(each.word()));
        }
        assertEquals(Optional.empty(), Afterwards.parse("explode"));
    }

    @Test
    void aCopyTakesEverythingButWhatBelongsToTheDisk() {
        Plan plan = Plans.of(new Rhythm.Days(3), "18:30", "07:00", true);
        PlanSource other = PlanSource.of("plumb", "PLUMB", "system disk", new DiskIdentity("Halden S1", "22-HS-0250", 250_059_350_016L),
            List.of(3, 1));
        assertEquals(List.of(1, 3), List.copyOf(other.without()), "in order");
        Plan copy = plan.copyTo("PLUMB, front desk", other);
        assertEquals(plan.copyTo("x", other).storing(), copy.storing());
        assertEquals(List.of("Name", "Disk", "Partitions"),
            PlanLines.changes(plan, copy).stream().map(line -> line.replaceAll(":.*", "")).toList());
        assertTrue(Checklist.proposed(true, true).size() == Checklist.proposed(false, false).size() + 2);
    }

    /**
     * Whatever the rhythm and the closing days: due nights ascend, are open where a person is needed, and none is further from the last
     * than the rhythm and the closed days between say.
     */
    @Test
    void dueNightsAscendAndAreOpenWhateverTheOfficesCalendar() {
        Random random = new Random(8);
        LocalDate began = LocalDate.parse("2026-01-05");
        for (int i = 0; i < 400; i++) {
            Set<DayOfWeek> working = new HashSet<>(
                List.of(DayOfWeek.of(1 + random.nextInt(7)), DayOfWeek.of(1 + random.nextInt(7)), DayOfWeek.of(1 + random.nextInt(7))));
            Set<LocalDate> closed = new HashSet<>();
            for (int k = random.nextInt(40); k > 0; k--) {
                closed.add(began.plusDays(random.nextInt(400)));
            }
            OfficeCalendar office = new OfficeCalendar(ZoneId.of(i % 2 == 0 ? "Europe/Berlin" : "America/New_York"), LocalTime.of(8, 0),
                LocalTime.of(18, 0), working, closed);
            Rhythm rhythm = switch (random.nextInt(3)) {
                case 0 -> new Rhythm.Days(1 + random.nextInt(30));
                case 1 -> Rhythm.Weekly.on(Set.of(DayOfWeek.of(1 + random.nextInt(7))));
                default -> new Rhythm.Monthly(1 + random.nextInt(31));
            };
            boolean person = random.nextBoolean();
            List<LocalDate> nights = new DueDates(Plans.of(rhythm, "18:30", "07:00", person), began, office).from(began, 12);
            assertEquals(12, nights.size());
            for (int n = 0; n < nights.size(); n++) {
                assertTrue(!person || office.open(nights.get(n)), nights.get(n) + " is closed");
                if (n > 0) {
                    LocalDate before = nights.get(n - 1);
                    assertTrue(before.isBefore(nights.get(n)));
                    long shut = before.datesUntil(nights.get(n)).filter(day -> !office.open(day)).count();
                    assertTrue(ChronoUnit.DAYS.between(before, nights.get(n)) <= rhythm.longestGapDays()
                        + (person ? shut + rhythm.longestGapDays() : 0), nights.toString());
                }
            }
        }
    }

    /** The page proposed a name that was taken already, a minute after the first image. */
    @Test
    void aNameThatIsTakenGetsANumber() {
        assertEquals("PC-disk", NamingPattern.free("PC-disk", name -> false));
        assertEquals("PC-disk-3", NamingPattern.free("PC-disk", java.util.Set.of("PC-disk", "PC-disk-2")::contains));
        String longest = "x".repeat(100);
        assertEquals("x".repeat(98) + "-2", NamingPattern.free(longest, longest::equals));
    }
}
