package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SfdiskScriptTest {
    /** Property: what is dumped reads as the same table, in both sector sizes. */
    @Test
    void aDumpReadsAsTheSameTable() throws FaultException {
        Random random = new Random(17);
        for (int round = 0; round < 200; round++) {
            int sector = round % 3 == 0 ? 4096 : 512;
            PartitionTable table = sector == 512 && round % 2 == 0 ? SomeTables.mbr(random, 5000 * 512)
                : SomeTables.gpt(random, 5000L * sector, sector);
            assertEquals(new SfdiskScript(table, sector), SfdiskScript.read(SfdiskDump.write(table, sector)));
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "label: gpt#nonsense#|line 2: \"nonsense\" is neither",
        "label: sun#|its label is \"sun\"",
        "label: dos#disk1 : start=x, size=3, type=83#|line 2: start must be a whole number, not \"x\"",
        "label: dos#disk1 : start=3, size=0, type=83#|line 2: a partition of 0 bytes",
        "label: dos#disk1 : start=9000000000000000000, size=3, type=83#|line 2: 9000000000000000000 sectors are more",
        "label: dos#disk1 : start=1, size=3, type=zz#|\"zz\" is no hexadecimal number",
        "label: dos#sector-size: 2048#|sectors of 2048 bytes",
        "label: gpt#disk1 : start=1, size=3, attrs=\"GUID:64\"#|line 2: there is no attribute bit 64",
    })
    void whatIsNoScriptIsRefusedByLine(String script, String because) {
        String said = assertThrows(FaultException.class, () -> SfdiskScript.read(script.replace('#', '\n'))).getMessage();
        assertTrue(said.contains(because) && said.endsWith("It should be what \"sfdisk --dump DISK\" prints."), said);
    }

    @Test
    void mangledScriptsNeverThrowTheUnforeseen() {
        Random random = new Random(4);
        String good = SfdiskDump.write(SomeTables.gpt(random, 5000 * 512, 512), 512);
        for (int round = 0; round < 3000; round++) {
            StringBuilder text = new StringBuilder(good);
            for (int i = random.nextInt(6); i >= 0; i--) {
                text.setCharAt(random.nextInt(text.length()), ":=,\"\\ x9\n-".charAt(random.nextInt(10)));
            }
            try {
                SfdiskScript.read(text.toString());
            } catch (FaultException refused) {
                assertTrue(refused.getMessage().startsWith("The partition table script cannot be read"));
            }
        }
    }
}
