package app.granary.core.preflight;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.time.Instant;
import java.time.ZoneId;
import java.util.OptionalInt;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PreflightTest {
    @ParameterizedTest
    @CsvSource(nullValues = "-", value = {
        "false, -,  -,    7200, true",
        "true,  90, -,    7200, true",
        "true,  50, -,    7200, true",
        "true,  49, -,    7200, false",
        "true,  -,  -,    1,    false",
        "true,  12, 7800, 7200, true",
        "true,  90, 7799, 7200, false"})
    void aBatteryMustLastForTheWorkWithSomethingToSpare(boolean battery, Integer percent, Long left, double longest, boolean fine) {
        Power power = new Power(battery, percent == null ? OptionalInt.empty() : OptionalInt.of(percent),
            left == null ? OptionalLong.empty() : OptionalLong.of(left));
        assertEquals(fine, Preflight.power(power, longest).isEmpty());
        Preflight.power(power, longest).ifPresent(
            why -> assertTrue(why.endsWith("Plug it in, then start.") && (percent == null || why.contains(percent + " % left")), why));
    }

    /** Across the night in which the clock is set back by law nothing is behind: moments are compared, not what the wall says. */
    @Test
    void aClockBehindTheJournalIsToldAndSummerTimeIsNot() {
        ZoneId zone = ZoneId.of("Europe/London");
        Instant line = Instant.parse("2026-10-25T00:55:00Z");
        assertTrue(Preflight.clock(Instant.parse("2026-10-25T01:05:00Z"), line, zone).isEmpty());
        assertTrue(Preflight.clock(line.minusSeconds(300), line, zone).isEmpty());
        String why = Preflight.clock(line.minusSeconds(301), line, zone).orElseThrow();
        assertEquals(
            "This machine's clock says Sun 25 Oct 2026, 01:49, but the journal has a line of Sun 25 Oct 2026, 01:55. Set the clock, then "
                + "start: an image dated wrongly is kept or released wrongly.",
            why);
    }
}
