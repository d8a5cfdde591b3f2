package app.granary.core.inventory;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FirmwareFactsTest {
    @ParameterizedTest
    @CsvSource({"Acer Inc.,F12", "ASUSTeK,", "Hewlett-Packard Company,F9 or Esc", "hp,F9 or Esc", "Aldine Works,", "'',", "Facer,"})
    void aKeyIsSuggestedByMakerOrNotAtAll(String maker, String key) {
        assertEquals(Optional.ofNullable(key), BootKeys.shipped().suggestion(maker));
    }

    @Test
    void theTableIsAFileOnesOwnCanReplace() {
        assertEquals(Optional.of("F2, then F7"),
            BootKeys.parse("# mine\nno comma\nAldine Works,F2, then F7\n").suggestion("Aldine Works Ltd"));
    }

    @Test
    void aKeyThatDiesWithItsComputerIsWarnedOf() {
        assertTrue(KeyPlace.warning("TRIPOD", Encryption.VOLUMES, KeyPlace.SAME_COMPUTER, "").orElseThrow()
            .startsWith("The key that opens TRIPOD is kept on TRIPOD itself"));
        assertTrue(KeyPlace.warning("TRIPOD", Encryption.VOLUMES, KeyPlace.PAPER, "a file on Tripod's desktop").isPresent());
        assertTrue(KeyPlace.warning("TRIPOD", Encryption.VOLUMES, KeyPlace.UNKNOWN, "").orElseThrow().contains("nobody has noted"));
        assertEquals(Optional.empty(), KeyPlace.warning("TRIPOD", Encryption.VOLUMES, KeyPlace.SAFE, "envelope 4"));
        assertEquals(Optional.empty(), KeyPlace.warning("TRIPOD", Encryption.NONE, KeyPlace.SAME_COMPUTER, ""));
    }

    @Test
    void wordsOnTheWireAreReadBack() {
        for (KeyPlace each : KeyPlace.values()) {
            assertEquals(Optional.of(each), KeyPlace.parse(each.word()));
        }
        for (Encryption each : Encryption.values()) {
            assertEquals(Optional.of(each), Encryption.parse(each.word()));
        }
        assertEquals(Firmware.UEFI, Firmware.parse(" Uefi"));
        assertEquals(Firmware.UNKNOWN, Firmware.parse("coreboot"));
    }
}
