package app.granary.core.destination;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.DiscPlan.Item;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

class DiscPlanTest {
    private static final long MIB = 1 << 20;

    /** Capacities as blank discs are sold with them: 4.7 and 25 GB (the standards' sectors, from memory). */
    @Test
    void aDiscTakesWhatIsPrintedOnIt() {
        assertEquals(4_700_372_992L, Disc.DVD_PLUS_R.bytes());
        assertEquals(4_707_319_808L, Disc.DVD_MINUS_R.bytes());
        assertEquals(25_025_314_816L, Disc.BD_R.bytes());
        assertEquals(Optional.of(Disc.BD_R), Disc.parse("bd-r"));
        assertEquals(Optional.empty(), Disc.parse("tape"));
    }

    /** Every file is on one disc, in order, and no disc is too full; a part too long for any is said with how long it may be. */
    @RepeatedTest(20)
    void everyFileIsOnOneDiscAndNoDiscIsTooFull(RepetitionInfo seed) throws IOException {
        Random random = new Random(seed.getCurrentRepetition());
        long every = random.nextInt(3_000_000);
        long disc = 20 * MIB + random.nextInt(1_000_000);
        List<Item> items = new ArrayList<>();
        for (int i = random.nextInt(40); i >= 0; i--) {
            items.add(new Item("part" + items.size(), 1 + random.nextInt((int) (12 * MIB))));
        }
        Map<String, Long> bytes = items.stream().collect(Collectors.toMap(Item::name, Item::bytes));
        DiscPlan plan = DiscPlan.of(items, every, disc);
        assertEquals(items.stream().map(Item::name).toList(), plan.discs().stream().flatMap(List::stream).toList());
        for (List<String> each : plan.discs()) {
            assertTrue(!each.isEmpty() && every + each.stream().mapToLong(bytes::get).sum() + MIB <= disc, each.toString());
        }
        assertTrue(assertThrows(FaultException.class, () -> DiscPlan.of(List.of(new Item("x", disc)), every, disc)).getMessage()
            .contains("Make the image in parts of at most"));
    }
}
