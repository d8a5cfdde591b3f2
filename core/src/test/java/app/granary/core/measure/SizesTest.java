package app.granary.core.measure;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SizesTest {
    /** The table is shared with the browser's formatter. Units: IEC 80000-13; the disk sizes: IDEMA LBA1-03 (from memory). */
    @Test
    void bothReadingsFollowTheSharedTable() throws IOException {
        for (JsonNode row : new ObjectMapper().readTree(SizesTest.class.getResource("/sizes.json"))) {
            long bytes = row.get("bytes").asLong();
            assertEquals(row.get("decimal").asText(), Sizes.format(bytes, Reading.DECIMAL), () -> "decimal of " + bytes);
            assertEquals(row.get("binary").asText(), Sizes.format(bytes, Reading.BINARY), () -> "binary of " + bytes);
        }
    }

    /**
     * A makers' terabyte less a makers' 750 GB is what systems that count in binary and cut off show as "232" (common practice, no source);
     * marketed capacities by IDEMA LBA1-03 (from memory) are 97 696 368 sectors for 50 GB and 1 953 504 more for each further one.
     */
    @Test
    void makersUnitsAndSystemsUnitsAreNotTheSame() {
        assertEquals(232, (1_000_000_000_000L - 750_000_000_000L) >> 30);
        assertEquals("250 GB", Sizes.format(250_000_000_000L, Reading.DECIMAL));
        assertEquals("233 GiB", Sizes.format(250_000_000_000L, Reading.BINARY));
        for (long[] known : new long[][] {{120, 234_441_648L}, {250, 488_397_168L}, {500, 976_773_168L}, {1000, 1_953_525_168L}}) {
            assertEquals(known[1], 97_696_368L + 1_953_504L * (known[0] - 50));
            assertEquals(known[0] == 1000 ? "1.00 TB" : known[0] + " GB", Sizes.decimal(known[1] * 512));
        }
    }

    /** The same rule, spelt with exact decimal numbers: 200 000 sizes of all magnitudes, and those beside every edge. */
    @Test
    void roundingIsExact() {
        Random random = new Random(6);
        for (int i = 0; i < 200_000; i++) {
            long bytes = i % 2 == 0 ? random.nextLong() >>> 1 + random.nextInt(62)
                : Math.max(0,
                    Math.round(Math.pow(i % 4 == 1 ? 1000 : 1024, random.nextInt(6)) * (i % 3 == 0 ? 9.995 : i % 3 == 1 ? 99.95 : 999.5))
                        + random.nextInt(5) - 2);
            for (Reading reading : Reading.values()) {
                assertEquals(exact(bytes, reading), Sizes.format(bytes, reading), () -> bytes + " " + reading);
            }
        }
    }

    private static String exact(long bytes, Reading reading) {
        BigDecimal base = BigDecimal.valueOf(reading == Reading.DECIMAL ? 1000 : 1024);
        String[] units = reading == Reading.DECIMAL ? new String[] {"B", "kB", "MB", "GB", "TB", "PB", "EB"}
            : new String[] {"B", "KiB", "MiB", "GiB", "TiB", "PiB", "EiB"};
        BigDecimal value = BigDecimal.valueOf(bytes);
        int power = 0;
        while (power < 6 && scaled(value, power).compareTo(base) >= 0) {
            value = value.divide(base);
            power++;
        }
        return scaled(value, power).toPlainString() + " " + units[power];
    }

    private static BigDecimal scaled(BigDecimal value, int power) {
        double size = value.doubleValue();
        return value.setScale(power == 0 ? 0 : size < 9.995 ? 2 : size < 99.95 ? 1 : 0, RoundingMode.HALF_UP);
    }

    @Test
    void negativeSizesAreAProgrammingMistake() {
        assertThrows(IllegalArgumentException.class, () -> Sizes.decimal(-1));
    }
}
