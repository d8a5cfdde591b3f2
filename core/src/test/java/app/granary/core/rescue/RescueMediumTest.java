package app.granary.core.rescue;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.inventory.Firmware;
import app.granary.core.rescue.RescueMedium.BootTest;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;

class RescueMediumTest {
    private static final Instant NOW = Instant.parse("2026-11-25T09:00:00Z");

    private static RescueMedium medium(int writes, int errors, boolean retired, BootTest... tests) {
        return new RescueMedium("KEY-A", "Larch rescue 12", List.of("BIOS", "UEFI"), NOW.minus(Duration.ofDays(5 * 365)), writes, errors,
            retired, List.of(tests));
    }

    private static BootTest test(String computer, int daysAgo, boolean started, int writeCount) {
        return new BootTest(computer + "-id", computer, NOW.minus(Duration.ofDays(daysAgo)), started, writeCount);
    }

    @Test
    void aTestCountsForTheComputerAndForWhatWasOnTheStickThen() {
        assertTrue(medium(2, 0, false, test("TRIPOD", 10, true, 2)).starts("TRIPOD-id"));
        assertFalse(medium(2, 0, false, test("TRIPOD", 10, true, 2)).starts("PLUMB-id"));
        assertFalse(medium(3, 0, false, test("TRIPOD", 10, true, 2)).starts("TRIPOD-id"), "written since");
        assertFalse(medium(2, 0, false, test("TRIPOD", 10, true, 2), test("TRIPOD", 1, false, 2)).starts("TRIPOD-id"), "the newest counts");
        assertFalse(medium(2, 0, true, test("TRIPOD", 10, true, 2)).starts("TRIPOD-id"), "retired");
    }

    @Test
    void whatIsDueSaysWhy() {
        assertTrue(medium(1, 0, false).due(NOW).orElseThrow().startsWith("It was never tried"));
        assertTrue(medium(2, 0, false, test("TRIPOD", 10, true, 1)).due(NOW).orElseThrow().startsWith("It was written since"));
        assertTrue(medium(2, 0, false, test("TRIPOD", 10, false, 2)).due(NOW).orElseThrow().startsWith("It did not start TRIPOD"));
        assertEquals("It was last tried 180 days ago. Start a computer with it once.",
            medium(2, 0, false, test("TRIPOD", 180, true, 2)).due(NOW).orElseThrow());
        assertTrue(medium(2, 0, false, test("TRIPOD", 179, true, 2)).due(NOW).isEmpty());
        assertTrue(medium(2, 0, true).due(NOW).isEmpty());
    }

    @Test
    void wearIsTold() {
        assertEquals(
            List.of("2 errors so far: do not rely on it.", "Written 100 times.", "In use for 5 years: have a new one ready."),
            medium(100, 2, false).wear(NOW));
    }

    @Test
    void theSchemeFollowsFirmwareThenYear() {
        assertEquals("gpt", SchemeAdvice.of(Firmware.UEFI, OptionalInt.of(2008)).scheme());
        assertEquals("mbr", SchemeAdvice.of(Firmware.BIOS, OptionalInt.empty()).scheme());
        assertEquals("mbr", SchemeAdvice.of(Firmware.UNKNOWN, OptionalInt.of(2010)).scheme());
        assertEquals("gpt", SchemeAdvice.of(Firmware.UNKNOWN, OptionalInt.of(2011)).scheme());
        assertTrue(medium(1, 0, false).suits(Firmware.BIOS) && medium(1, 0, false).suits(Firmware.UNKNOWN));
    }
}
