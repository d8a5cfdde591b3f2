package app.granary.core.destination;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DiscTest {
    /** 71 GB is 16 DVDs (common practice, no source); the rest by division. */
    @ParameterizedTest
    @CsvSource({"71000000000, DVD_PLUS_R, 16", "71000000000, DVD_MINUS_R, 16", "71000000000, BD_R, 3", "4700372992, DVD_PLUS_R, 1",
        "4700372993, DVD_PLUS_R, 2", "0, BD_R, 1"})
    void howManyDiscs(long bytes, Disc disc, long count) {
        assertEquals(count, disc.count(bytes));
    }

    /** By division; the last length is one more than FAT32's longest file, which is two parts. */
    @ParameterizedTest
    @CsvSource({"71000000000, 4000000000, 18", "4000000000, 4000000000, 1", "4000000001, 4000000000, 2", "0, 4000000000, 1",
        "9223372036854775807, 1, 9223372036854775807", "4294967296, 4294967295, 2"})
    void howManyParts(long bytes, long part, long count) {
        assertEquals(count, new Parts(part).count(bytes));
        assertEquals(count > 1000, new Parts(part).silly(bytes));
        assertThrows(IllegalArgumentException.class, () -> new Parts(0));
    }

    @Test
    void tooManyIsSaidSo() {
        assertTrue(Disc.DVD_PLUS_R.silly(71_000_000_000L));
        assertFalse(Disc.BD_R.silly(71_000_000_000L));
    }
}
