package app.granary.core.destination;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DiscTest {
    /** 71 GB is 16 DVDs (common practice, no source); the rest by division. */
    @ParameterizedTest
    @CsvSource({"71000000000, DVD_PLUS_R, 16", "71000000000, DVD_MINUS_R, 16", "71000000000, BD_R, 3", "4700372992, DVD_PLUS_R, 1", "4700372993, DVD_PLUS_R, 2", "0, BD_R, 1"})
    void howManyDiscs(long bytes, Disc disc, long count) {
        assertEquals(count, disc.count(bytes));
    }

    @Test
    void tooManyIsSaidSo() {
        assertTrue(Disc.DVD_PLUS_R.silly(71_000_000_000L));
        assertFalse(Disc.BD_R.silly(71_000_000_000L));
    }
}
