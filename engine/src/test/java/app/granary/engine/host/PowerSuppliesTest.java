package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.preflight.Power;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Folders laid out as the kernel's Documentation/ABI/testing/sysfs-class-power describes them; the figures are made up. */
class PowerSuppliesTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "                                                                                                         | false ? ?",
        "AC type=Mains online=1                                                                                   | false ? ?",
        "AC type=Mains online=1 / BAT0 type=Battery status=Charging capacity=40                                    | false ? ?",
        "AC type=Mains online=0 / BAT0 type=Battery status=Discharging capacity=40 energy_now=20000000 power_now=10000000 | true 40 7200",
        "BAT0 type=Battery status=Discharging capacity=40 charge_now=1000000 current_now=-2000000                  | true 40 1800",
        "BAT0 type=Battery status=Discharging capacity=40 energy_now=9 power_now=0                                 | true 40 ?",
        "BAT0 type=Battery status=Discharging capacity=400 energy_now=x                                            | true ? ?",
        "mouse type=Battery scope=Device status=Discharging capacity=9                                             | false ? ?",
        "ucsi type=USB online=1 / BAT0 type=Battery status=Discharging capacity=40                                 | false ? ?"})
    void whatTheKernelTellsIsRead(String supplies, String expected) throws IOException {
        for (String supply : supplies == null ? new String[0] : supplies.split(" / ")) {
            String[] words = supply.trim().split(" ");
            Path made = Files.createDirectories(folder.resolve(words[0]));
            for (int i = 1; i < words.length; i++) {
                Files.writeString(made.resolve(words[i].split("=")[0]), words[i].split("=")[1] + "\n");
            }
        }
        Power power = PowerSupplies.read(folder);
        assertEquals(expected, power.battery() + " " + (power.percent().isPresent() ? power.percent().getAsInt() : "?") + " "
            + (power.secondsLeft().isPresent() ? power.secondsLeft().getAsLong() : "?"));
        assertEquals(Power.MAINS, PowerSupplies.read(folder.resolve("nothing")));
    }
}
