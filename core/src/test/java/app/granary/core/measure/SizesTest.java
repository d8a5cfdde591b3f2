package app.granary.core.measure;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
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

    @Test
    void negativeSizesAreAProgrammingMistake() {
        assertThrows(IllegalArgumentException.class, () -> Sizes.decimal(-1));
    }
}
