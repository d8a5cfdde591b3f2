package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Bytes;
import java.util.HexFormat;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Runs by hand; that real ones are read alike is tested against ntfsinfo with the engine. */
class NtfsRunsTest {
    private static NtfsRuns decode(String hex) throws Untrusted {
        byte[] raw = HexFormat.of().parseHex(hex);
        return NtfsRuns.decode(Bytes.of(raw), 0, raw.length, 100_000);
    }

    @Test
    void placesAreRelativeAndMayGoBack() throws Untrusted {
        // 24 clusters at 22 000, then 16 at 22 000 - 1000, then a hole of 8, then 5 at 21 000 + 50
        assertEquals(
            List.of(new NtfsRuns.Run(22_000, 24), new NtfsRuns.Run(21_000, 16), new NtfsRuns.Run(NtfsRuns.HOLE, 8),
                new NtfsRuns.Run(21_050, 5)),
            decode("2118F055" + "211018FC" + "0108" + "110532" + "00").runs());
    }

    @ParameterizedTest
    @CsvSource({
        "1110, makes no sense, cut after its head",
        "F118, makes no sense, fifteen bytes of place",
        "1100FF00, impossible length, no clusters",
        "1180100000, impossible length, minus 128 clusters",
        "111080, outside the volume, before its start",
        "31FFA0860100, impossible length, one byte read as minus one",
        "3110A0860100, outside the volume, at its very end",
    })
    void runsThatCannotBeAreNotTrusted(String hex, String reason, String why) {
        assertTrue(assertThrows(Untrusted.class, () -> decode(hex), why).getMessage().contains(reason), why);
    }

    @Test
    void aTornRecordIsToldByItsFixups() {
        byte[] record = new byte[1024];
        record[4] = 48;
        record[6] = 3;
        record[48] = 7;
        record[50] = 'a';
        record[52] = 'b';
        record[510] = 7;
        record[1022] = 7;
        byte[] torn = record.clone();
        torn[1022] = 6;
        assertTrue(NtfsFixups.apply(record));
        assertEquals('a', record[510]);
        assertEquals('b', record[1022]);
        assertFalse(NtfsFixups.apply(torn));
        torn[6] = 2;
        assertFalse(NtfsFixups.apply(torn), "an array for a shorter record");
    }
}
