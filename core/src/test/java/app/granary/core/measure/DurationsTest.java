package app.granary.core.measure;

import static org.junit.jupiter.api.Assertions.assertEquals;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DurationsTest {
    @ParameterizedTest
    @CsvSource({"0, 0 s", "0.1, 1 s", "89, 89 s", "90, 2 min", "5340, 89 min", "5400, 1 h 30", "7500, 2 h 05", "86400, 24 h 00"})
    void lengthsReadAsWords(double seconds, String text) {
        assertEquals(text, Durations.length(seconds));
    }

    @ParameterizedTest
    @CsvSource({"7800, 10200, 2 h 10 to 2 h 50", "601, 620, 10 min"})
    void aRangeIsOneLengthWhenBothEndsReadTheSame(double low, double high, String text) {
        assertEquals(text, Durations.range(low, high));
    }
}
