package app.granary.core.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.restore.RestoreTime.Bytes;
import app.granary.core.restore.RestoreTime.Rates;
import org.junit.jupiter.api.Test;

class RestoreTimeTest {
    /** Making file systems smaller took nothing beside a plain restore at best, and all of the scratch file three times at worst. */
    @Test
    void makingSmallerOnTheWayWidensTheRange() {
        Rates rates = new Rates(100e6, 200e6);
        RestoreTime plain = RestoreTime.of(new Bytes(30_000_000_000L, 60_000_000_000L), rates);
        RestoreTime shrunk = RestoreTime.of(new Bytes(30_000_000_000L, 60_000_000_000L, 40_000_000_000L), rates);
        assertEquals(540, plain.lowSeconds(), 1e-6);
        assertEquals(960, plain.highSeconds(), 1e-6);
        assertEquals(540, shrunk.lowSeconds(), 1e-6);
        assertEquals(1920, shrunk.highSeconds(), 1e-6);
    }
}
