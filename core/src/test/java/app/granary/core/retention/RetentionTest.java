package app.granary.core.retention;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.retention.RetentionDecision.Rule;
import app.granary.core.retention.ShelvedCopy.Hold;
import app.granary.core.retention.ShelvedCopy.State;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RetentionTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/London");

    private static ShelvedCopy image(LocalDate day, LocalTime at, State state) {
        return new ShelvedCopy(day.toString(), day.toString(), day.atTime(at).atZone(ZONE).toInstant(), state, List.of(), List.of());
    }

    private static RetentionPolicy policy(int last, int daily, int weekly, int monthly, int yearly) {
        return new RetentionPolicy(new Keep(last, daily, weekly, monthly, yearly), 0, 0, 1);
    }

    private static Map<String, RetentionDecision> decide(List<ShelvedCopy> images, RetentionPolicy policy, Instant now) {
        return Retention.decide(images, policy, now, ZONE).stream().collect(Collectors.toMap(RetentionDecision::id, Function.identity()));
    }

    private static Set<String> kept(List<ShelvedCopy> images, RetentionPolicy policy, Instant now) {
        return Retention.decide(images, policy, now, ZONE).stream().filter(RetentionDecision::kept).map(RetentionDecision::id)
            .collect(Collectors.toCollection(TreeSet::new));
    }

    /**
     * Seven days, four weeks, twelve months over a year of nightly images, worked out by hand with a wall calendar. On Wednesday 31
     * December 2025 the days are 25 to 31 December; the weeks end on 31, 28, 21 and 14 December, of which the first two are among the days;
     * the months end on the last of each, December's again among the days: 7 + 2 + 11 = 20. The nights are at 01:30, which does not exist
     * on 30 March and comes twice on 26 October.
     */
    @Test
    void aYearOfNightsByTheClassicTable() {
        List<ShelvedCopy> nightly = LocalDate.of(2025, 1, 1).datesUntil(LocalDate.of(2026, 1, 1))
            .map(day -> image(day, LocalTime.of(1, 30), State.PROVEN)).toList();
        Set<String> expected = Stream
            .of("2025-12-31", "2025-12-30", "2025-12-29", "2025-12-28", "2025-12-27", "2025-12-26", "2025-12-25", "2025-12-21",
                "2025-12-14", "2025-11-30", "2025-10-31", "2025-09-30",
                "2025-08-31", "2025-07-31", "2025-06-30", "2025-05-31", "2025-04-30", "2025-03-31", "2025-02-28", "2025-01-31")
            .collect(Collectors.toCollection(TreeSet::new));
        assertEquals(expected, kept(nightly, policy(0, 7, 4, 12, 0), Instant.parse("2025-12-31T12:00:00Z")));
    }

    /** The copy beside it is damaged: then the last sound one on another drive stays, whichever copy is looked at first. */
    @Test
    void aCopyOnItsOwnDiskProvesNothing() {
        Instant made = Instant.parse("2025-12-30T12:00:00Z");
        List<ShelvedCopy> shelf = new ArrayList<>(List.of(
            new ShelvedCopy("own", "new", made, State.PROVEN, "for a quick roll-back, on the disk itself", List.of(), List.of()),
            new ShelvedCopy("cairn", "new", made, State.DAMAGED, List.of(), List.of()),
            image(LocalDate.of(2025, 1, 1), LocalTime.NOON, State.PROVEN)));
        for (int turn = 0; turn < 3; turn++) {
            assertEquals(Rule.NEWEST_PROVEN, decide(shelf, policy(1, 0, 0, 0, 0), made.plusSeconds(9)).get("2025-01-01").rule());
            Collections.rotate(shelf, 1);
        }
    }

    /** An image without a partition was the newest proven of its disk, and the last that held all of it was released. */
    @Test
    void whatLacksAPartStandsForNoneThatHoldsAll() {
        Instant now = Instant.parse("2025-12-31T12:00:00Z");
        List<ShelvedCopy> shelf = new ArrayList<>(List.of(image(LocalDate.of(2025, 1, 1), LocalTime.NOON, State.PROVEN),
            image(LocalDate.of(2025, 1, 2), LocalTime.NOON, State.UNPROVEN)));
        for (int day = 1; day <= 20; day++) {
            Instant at = LocalDate.of(2025, 12, day).atTime(1, 0).atZone(ZONE).toInstant();
            shelf.add(new ShelvedCopy("part-" + day, "part-" + day, at, State.PROVEN, "partly: without recovery", List.of(), List.of()));
        }
        Map<String, RetentionDecision> decided = decide(shelf, policy(0, 3, 0, 0, 0), now);
        assertEquals("Kept: the newest proven image of its disk, which never goes.", decided.get("2025-01-01").why());
        assertEquals("Kept: the newest proven image of its disk that is partly: without recovery, which never goes.",
            decided.get("part-20").why());
        assertEquals(Set.of("2025-01-01", "2025-01-02", "part-18", "part-19", "part-20"),
            Set.copyOf(kept(shelf, policy(0, 3, 0, 0, 0), now)));
    }

    /** The same, released night after night as the year goes, comes to the same shelf. */
    @Test
    void releasedEveryNightTheShelfIsTheSameAtTheEnd() {
        List<ShelvedCopy> shelf = new ArrayList<>();
        List<ShelvedCopy> all = new ArrayList<>();
        LocalDate.of(2025, 1, 1).datesUntil(LocalDate.of(2026, 1, 1)).forEach(day -> {
            ShelvedCopy tonight = image(day, LocalTime.of(1, 30), State.PROVEN);
            all.add(tonight);
            shelf.add(tonight);
            Set<String> kept = kept(shelf, policy(0, 7, 4, 12, 0), tonight.madeAt().plusSeconds(3600));
            shelf.removeIf(image -> !kept.contains(image.id()));
            assertTrue(shelf.size() <= 23);
        });
        assertEquals(kept(all, policy(0, 7, 4, 12, 0), Instant.parse("2025-12-31T12:00:00Z")),
            shelf.stream().map(ShelvedCopy::id).collect(Collectors.toCollection(TreeSet::new)));
    }

    /** ISO 8601 by Java's own calendar: 2026 has a week 53, which ends on 3 January 2027; 29 February 2028 is a day like any other. */
    @ParameterizedTest
    @CsvSource({
        "2026-12-28 2026-12-31 2027-01-02 2027-01-04, 0 0 2 0 0, 2027-01-02 2027-01-04, 2027-01-02, week 53 of 2026",
        "2024-12-29 2024-12-30 2025-01-01, 0 0 2 0 0, 2024-12-29 2025-01-01, 2024-12-29, week 52 of 2024",
        "2028-02-28 2028-02-29 2028-03-01, 0 0 0 2 0, 2028-02-29 2028-03-01, 2028-02-29, February 2028",
        "2027-12-31 2028-12-31 2029-01-01, 0 0 0 0 3, 2027-12-31 2028-12-31 2029-01-01, 2028-12-31, of 2028",
        "2028-02-27 2028-02-28 2028-02-29, 2 0 0 0 0, 2028-02-28 2028-02-29, 2028-02-28, number 2 of the last 2"})
    void periodsFollowTheCalendar(String days, String counts, String expected, String asked, String words) {
        List<ShelvedCopy> images = Stream.of(days.split(" ")).map(day -> image(LocalDate.parse(day), LocalTime.of(23, 0), State.PROVEN))
            .toList();
        int[] n = Stream.of(counts.split(" ")).mapToInt(Integer::parseInt).toArray();
        Instant now = Instant.parse("2030-01-01T00:00:00Z");
        assertEquals(new TreeSet<>(List.of(expected.split(" "))), kept(images, policy(n[0], n[1], n[2], n[3], n[4]), now));
        assertTrue(decide(images, policy(n[0], n[1], n[2], n[3], n[4]), now).get(asked).why().contains(words),
            decide(images, policy(n[0], n[1], n[2], n[3], n[4]), now).toString());
    }

    @Test
    void eachRuleSaysWhyInItsOrder() {
        Instant now = Instant.parse("2026-11-25T12:00:00Z");
        LocalDate day = LocalDate.of(2026, 11, 25);
        LocalTime one = LocalTime.of(1, 0);
        ShelvedCopy held = new ShelvedCopy("held", "held", now.minus(Duration.ofDays(900)), State.DAMAGED,
            List.of(new Hold("before the upgrade", Optional.of(now.plusSeconds(60)))), List.of());
        ShelvedCopy over = new ShelvedCopy("over", "over", now.minus(Duration.ofDays(901)), State.PROVEN,
            List.of(new Hold("audit", Optional.of(now))), List.of());
        ShelvedCopy used = new ShelvedCopy("used", "used", now.minus(Duration.ofDays(902)), State.UNPROVEN, List.of(),
            List.of("rollout to six laptops"));
        List<ShelvedCopy> images = new ArrayList<>(List.of(held, over, used, image(day, one, State.UNPROVEN),
            image(day.minusDays(1), one, State.PROVEN), image(day.minusDays(2), one, State.DAMAGED),
            image(day.minusDays(3), one, State.PROVEN), image(day.minusDays(400), one, State.PROVEN)));
        Map<String, RetentionDecision> by = decide(images, new RetentionPolicy(new Keep(1, 0, 0, 1, 0), 3, 365, 1), now);
        assertEquals(
            Map.of("held", Rule.HELD, "over", Rule.TOO_OLD, "used", Rule.IN_USE, "2026-11-25", Rule.LAST, "2026-11-24", Rule.NEWEST_PROVEN,
                "2026-11-23", Rule.YOUNG, "2026-11-22", Rule.NOT_NEEDED,
                day.minusDays(400).toString(), Rule.TOO_OLD),
            by.values().stream().collect(Collectors.toMap(RetentionDecision::id, RetentionDecision::rule)));
        assertEquals("Kept: held until Wed 25 Nov 2026: before the upgrade.", by.get("held").why());
        assertEquals("Kept: in use: rollout to six laptops.", by.get("used").why());
        assertEquals("Kept: number 1 of the last 1.", by.get("2026-11-25").why());
        assertTrue(by.get("2026-11-22").why().startsWith("Released: no rule keeps it"));
        assertEquals("Released: 400 days old, and older than 365 days only what is held, used or the newest proven stays.",
            by.get(day.minusDays(400).toString()).why());
        List<ShelvedCopy> none = images.stream().filter(each -> each.state() != State.PROVEN).toList();
        assertTrue(decide(none, policy(1, 0, 0, 0, 0), now).values().stream().allMatch(RetentionDecision::kept),
            "while none is proven none goes");
        assertEquals(Rule.EVERY, decide(images, RetentionPolicy.ALL, now).get("2026-11-22").rule());
    }

    @Test
    void copiesStayOrGoTogetherAndOneSoundCopyIsEnough() {
        Instant now = Instant.parse("2026-11-25T12:00:00Z");
        Instant old = now.minus(Duration.ofDays(9));
        List<ShelvedCopy> images = List.of(new ShelvedCopy("a", "old", old, State.DAMAGED, List.of(), List.of()),
            new ShelvedCopy("b", "old", old, State.PROVEN, List.of(), List.of()),
            new ShelvedCopy("c", "new", now.minusSeconds(60), State.UNPROVEN, List.of(), List.of()));
        Map<String, RetentionDecision> by = decide(images, policy(1, 0, 0, 0, 0), now);
        assertTrue(by.values().stream().allMatch(RetentionDecision::kept), by.toString());
        assertEquals(Rule.NEWEST_PROVEN, by.get("a").rule(), "the damaged copy is repaired from the sound one");
    }

    @Test
    void thePolicyIsASentence() {
        assertEquals("Every image is kept.", RetentionPolicy.ALL.words());
        assertEquals(
            "Kept are the last 3 and the newest proven of 7 days, 4 weeks and 12 months, nothing younger than 2 days goes, nothing older "
                + "than 400 days stays for that, and the newest 2 proven ones always stay.",
            new RetentionPolicy(new Keep(3, 7, 4, 12, 0), 2, 400, 2).words());
        assertEquals("Kept are the newest proven of 1 year, and the newest proven one always stays.", policy(0, 0, 0, 0, 1).words());
        assertEquals("Every image is kept, until it is older than 1 day, and the newest proven one always stays.",
            new RetentionPolicy(Keep.ALL, 0, 1, 1).words());
        assertThrows(IllegalArgumentException.class, () -> new RetentionPolicy(Keep.ALL, 5, 4, 1));
        assertThrows(IllegalArgumentException.class, () -> new RetentionPolicy(Keep.ALL, 0, 0, 0));
    }

    /** Whatever lies on the shelf and whatever the policy. */
    @Test
    void proofIsNeverLostTwiceIsOnceHeldStaysMoreKeepsMore() {
        Random random = new Random(37);
        Instant now = Instant.parse("2026-11-25T12:00:00Z");
        for (int round = 0; round < 600; round++) {
            List<ShelvedCopy> images = shelf(random, now);
            RetentionPolicy policy = new RetentionPolicy(
                new Keep(random.nextInt(4), random.nextInt(8), random.nextInt(5), random.nextInt(5), random.nextInt(3)), random.nextInt(10),
                random.nextBoolean() ? 0 : 10 + random.nextInt(400), 1 + random.nextInt(3));
            Set<String> kept = kept(images, policy, now);
            List<ShelvedCopy> left = images.stream().filter(image -> kept.contains(image.id())).toList();
            long proven = images.stream().filter(image -> image.state() == State.PROVEN).map(ShelvedCopy::imageId).distinct().count();
            long stillProven = left.stream().filter(image -> image.state() == State.PROVEN).map(ShelvedCopy::imageId).distinct().count();
            assertTrue(stillProven >= Math.min(proven, policy.leastProven()), () -> "proof lost: " + policy);
            assertEquals(kept, kept(left, policy, now), "a second time releases nothing more");
            List<ShelvedCopy> shuffled = new ArrayList<>(images);
            Collections.shuffle(shuffled, random);
            assertEquals(kept, kept(shuffled, policy, now), "order does not matter");
            List<ShelvedCopy> more = new ArrayList<>(images);
            more.add(new ShelvedCopy("added", "added", now.minus(Duration.ofHours(random.nextInt(9000))), State.values()[random.nextInt(3)],
                List.of(), List.of()));
            Set<String> after = kept(more, policy, now);
            images.stream().filter(image -> !image.inUse().isEmpty() || image.holds().stream().anyMatch(hold -> hold.stands(now)))
                .forEach(image -> assertTrue(after.contains(image.id())));
            Keep k = policy.keep();
            if (!k.equals(Keep.ALL)) {
                for (Keep wider : List.of(new Keep(k.last() + 1, k.daily(), k.weekly(), k.monthly(), k.yearly()),
                    new Keep(k.last(), k.daily() + 1, k.weekly(), k.monthly(), k.yearly()),
                    new Keep(k.last(), k.daily(), k.weekly() + 2, k.monthly(), k.yearly()),
                    new Keep(k.last(), k.daily(), k.weekly(), k.monthly() + 1, k.yearly() + 1))) {
                    assertTrue(
                        kept(images, new RetentionPolicy(wider, policy.minimumDays(), policy.maximumDays(), policy.leastProven()), now)
                            .containsAll(kept),
                        "more is never less");
                }
            }
            assertFalse(Retention.decide(images, policy, now, ZONE).stream().anyMatch(decision -> decision.why().isBlank()));
        }
        assertEquals(List.of(), Retention.decide(List.of(), RetentionPolicy.ALL, now, ZONE));
    }

    private static List<ShelvedCopy> shelf(Random random, Instant now) {
        List<ShelvedCopy> out = new ArrayList<>();
        int sets = random.nextInt(40);
        for (int set = 0; set < sets; set++) {
            Instant madeAt = now.minus(Duration.ofHours(random.nextInt(24 * (random.nextBoolean() ? 30 : 800))));
            for (int copy = 0; copy <= random.nextInt(2); copy++) {
                List<Hold> holds = random.nextInt(9) > 0 ? List.of() : List.of(
                    new Hold("audit", random.nextBoolean() ? Optional.empty() : Optional.of(now.plusSeconds(random.nextInt(200) - 100))));
                out.add(new ShelvedCopy(set + "/" + copy, "" + set, madeAt, State.values()[random.nextInt(3)], holds,
                    random.nextInt(20) > 0 ? List.of() : List.of("restore")));
            }
        }
        return out;
    }
}
