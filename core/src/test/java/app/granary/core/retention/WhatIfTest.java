package app.granary.core.retention;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.retention.WhatIf.Disk;
import app.granary.core.retention.WhatIf.Lying;
import app.granary.core.retention.WhatIf.Outlook;
import app.granary.core.retention.WhatIf.Room;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class WhatIfTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Berlin");
    private static final Instant NOW = ZonedDateTime.of(2026, 1, 1, 12, 0, 0, 0, ZONE).toInstant();
    private static final Instant YEAR_ON = ZonedDateTime.of(2027, 1, 1, 12, 0, 0, 0, ZONE).toInstant();
    private static final RetentionPolicy CLASSIC = new RetentionPolicy(new Keep(0, 7, 4, 12, 0), 0, 0, 1);

    private static List<Lying> nightly(int nights, String destination, long bytes) {
        List<Lying> out = new ArrayList<>();
        for (int night = 1; night <= nights; night++) {
            String id = String.format("%s-%04d", destination, night);
            Instant at = ZonedDateTime.of(2026, 1, 1, 22, 0, 0, 0, ZONE).plusDays(night).toInstant();
            out.add(new Lying(new ShelvedCopy(id, id, at, ShelvedCopy.State.PROVEN, List.of(), List.of()), destination, bytes));
        }
        return out;
    }

    /**
     * After a year of nights the classic stands at 7 days, 4 weeks and 12 months, some of which are one image; worked by hand in
     * RetentionTest.
     */
    @Test
    void theClassicLevelsOff() {
        Outlook outlook = WhatIf.of(List.of(new Disk("A", List.of(), List.of(CLASSIC), nightly(364, "peg", 10))),
            List.of(new Room("peg", 10_000, 100)), NOW, YEAR_ON, ZONE).get(0);
        assertTrue(outlook.refusal().isEmpty());
        int last = outlook.points().get(outlook.points().size() - 1).images();
        assertTrue(last >= 18 && last <= 23, "" + last);
        assertEquals(last * 10L, outlook.points().get(outlook.points().size() - 1).bytes());
        assertEquals(54, outlook.points().size(), 1, "one a week, and both ends");
        assertEquals(LocalDate.of(2026, 1, 1), outlook.points().get(0).day());
    }

    /** Every image of 10 bytes: free 100 of which 20 are reserve takes 8; the ninth night finds none. */
    @Test
    void theFirstImageWithoutRoomIsNamed() {
        List<Outlook> both = WhatIf.of(
            List.of(new Disk("LEDGER system disk", List.of(), List.of(RetentionPolicy.ALL), nightly(50, "peg", 10))),
            List.of(new Room("peg", 100, 20), new Room("cairn", 5, 0)), NOW, YEAR_ON, ZONE);
        WhatIf.Refusal refusal = both.get(0).refusal().orElseThrow();
        assertEquals(new WhatIf.Refusal(LocalDate.of(2026, 1, 10), "LEDGER system disk", 10, 0), refusal);
        assertTrue(both.get(1).refusal().isEmpty());
        assertEquals(0, both.get(1).points().get(1).images());
    }

    /** The old image lies there while the new one is written: keeping one needs room for two. */
    @Test
    void keepingOneNeedsRoomForTwo() {
        RetentionPolicy one = new RetentionPolicy(new Keep(1, 0, 0, 0, 0), 0, 0, 1);
        List<Disk> disks = List.of(new Disk("A", List.of(), List.of(one), nightly(100, "peg", 10)));
        assertTrue(WhatIf.of(disks, List.of(new Room("peg", 20, 0)), NOW, YEAR_ON, ZONE).get(0).refusal().isEmpty());
        assertEquals(LocalDate.of(2026, 1, 3),
            WhatIf.of(disks, List.of(new Room("peg", 19, 0)), NOW, YEAR_ON, ZONE).get(0).refusal().orElseThrow().day());
    }

    @Test
    void whatTheRuleLetsGoAtOnceIsGivenBackAtTheStart() {
        Lying old = new Lying(new ShelvedCopy("o", "o", NOW.minusSeconds(86_400L * 500), ShelvedCopy.State.PROVEN, List.of(), List.of()),
            "peg", 70);
        Lying newer = new Lying(new ShelvedCopy("n", "n", NOW.minusSeconds(86_400), ShelvedCopy.State.PROVEN, List.of(), List.of()), "peg",
            30);
        RetentionPolicy one = new RetentionPolicy(new Keep(1, 0, 0, 0, 0), 0, 0, 1);
        Outlook outlook = WhatIf
            .of(List.of(new Disk("A", List.of(old, newer), List.of(one), List.of())), List.of(new Room("peg", 0, 0)), NOW, YEAR_ON, ZONE)
            .get(0);
        assertEquals(100, outlook.points().get(0).bytes());
        assertEquals(30, outlook.points().get(outlook.points().size() - 1).bytes());
    }
}
