package app.granary.core.proof;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class StandingTest {
    private static final Instant DAY = Instant.parse("2026-11-24T02:14:00Z");

    private static Evidence on(int day, ProofLevel level, boolean ok) {
        return new Evidence(level, ok, DAY.plus(Duration.ofDays(day)), "ada", "PEG-1", 5);
    }

    private static Instant day(int number) {
        return DAY.plus(Duration.ofDays(number));
    }

    @Test
    void itStandsWhereItGotToSinceItLastFailed() {
        Standing none = Standing.of(List.of(), 30);
        assertEquals(Optional.empty(), none.level());
        assertTrue(none.stale(DAY), "what was never proven is to be checked");
        Standing risen = Standing
            .of(List.of(on(0, ProofLevel.READABLE, true), on(3, ProofLevel.REHEARSED, true), on(9, ProofLevel.SOUND, true)), 30);
        assertEquals(Optional.of(ProofLevel.REHEARSED), risen.level(), "a lower check does not take a higher one back");
        assertEquals(Optional.of(day(9)), risen.checkedAt());
        Standing fallen = Standing.of(List.of(on(0, ProofLevel.REHEARSED, true), on(4, ProofLevel.SOUND, false)), 30);
        assertTrue(fallen.damaged() && fallen.level().isEmpty());
        assertFalse(fallen.stale(day(400)), "a damaged one is to be repaired, not checked");
        Standing repaired = Standing
            .of(List.of(on(0, ProofLevel.REHEARSED, true), on(4, ProofLevel.SOUND, false), on(5, ProofLevel.READABLE, true)), 30);
        assertEquals(Optional.of(ProofLevel.READABLE), repaired.level());
        assertFalse(repaired.damaged());
    }

    @Test
    void aProofGoesStaleAfterItsDaysAndOnlyBytesReadRenewIt() {
        Standing standing = Standing
            .of(List.of(on(0, ProofLevel.READABLE, true), on(20, ProofLevel.COMPLETE, true), on(25, ProofLevel.BOOTED, true)), 30);
        assertEquals(Optional.of(ProofLevel.BOOTED), standing.level());
        assertFalse(standing.stale(day(30).minusSeconds(1)));
        assertTrue(standing.stale(day(30)), "that files are there, and that one was booted, says nothing of its bytes today");
    }

    /** Property: the order in which evidence is told does not matter. */
    @Test
    void theOrderOfTellingDoesNotMatter() {
        Random random = new Random(1);
        for (int round = 0; round < 200; round++) {
            List<Evidence> all = new ArrayList<>();
            for (int i = random.nextInt(8); i >= 0; i--) {
                all.add(on(i, ProofLevel.values()[random.nextInt(5)], random.nextInt(4) > 0));
            }
            Standing told = Standing.of(all, 10);
            Collections.shuffle(all, random);
            assertEquals(told, Standing.of(all, 10));
            assertEquals(told.checkedAt().map(at -> at.plus(Duration.ofDays(10))), told.staleAt());
        }
    }

    private static Recheck image(String id, int checkedOn, boolean only, boolean newest, boolean worry) {
        return new Recheck(id, Standing.of(List.of(on(checkedOn, ProofLevel.READABLE, true)), 30), 30, DAY, only, newest, worry);
    }

    @Test
    void rechecksGoByRiskAndThenByAge() {
        List<Recheck> all = List.of(image("old", 0, false, false, false), image("older-newest", 2, false, true, false),
            image("only", 8, true, true, false), image("worn", 9, false, false, true),
            image("fresh", 60, true, true, true), new Recheck("never", Standing.of(List.of(), 30), 30, day(10), false, false, false));
        Instant now = day(70);
        assertEquals(List.of("worn", "only", "older-newest", "old", "never"), Recheck.queue(all, now).stream().map(Recheck::id).toList());
        assertEquals("Last proven 62 days ago, and its proof stands 30; the newest of its disk, without another sound copy.",
            all.get(2).because(now));
        assertTrue(all.get(3).because(now).endsWith("on a drive that gives cause for worry."));
    }
}
