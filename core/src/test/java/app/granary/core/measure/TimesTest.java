package app.granary.core.measure;

import static org.junit.jupiter.api.Assertions.assertEquals;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;

/** The table is shared with the browser's formatters. */
class TimesTest {
    private final JsonNode table = read();

    private static JsonNode read() {
        try {
            return new ObjectMapper().readTree(TimesTest.class.getResource("/times.json"));
        } catch (IOException absent) {
            throw new java.io.UncheckedIOException(absent);
        }
    }

    @Test
    void lengthsAndRangesReadAsTheTableSays() {
        table.get("lengths").forEach(row -> assertEquals(row.get("text").asText(), Durations.length(row.get("seconds").asDouble())));
        table.get("ranges")
            .forEach(row -> assertEquals(row.get("text").asText(), Durations.range(row.get("low").asDouble(), row.get("high").asDouble())));
    }

    @Test
    void momentsReadAsTheTableSays() {
        table.get("moments").forEach(row -> {
            Instant at = Instant.parse(row.get("at").asText());
            ZoneId zone = ZoneId.of(row.get("zone").asText());
            assertEquals(row.get("day").asText(), Moments.day(at.atZone(zone).toLocalDate()));
            assertEquals(row.get("fullDay").asText(), Moments.fullDay(at, zone));
            assertEquals(row.get("clock").asText(), Moments.clock(at, zone));
            assertEquals(row.get("fullDay").asText() + ", " + row.get("clock").asText(), Moments.full(at, zone));
        });
    }
}
