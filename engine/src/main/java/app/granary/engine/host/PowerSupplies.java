package app.granary.engine.host;

import app.granary.core.preflight.Power;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.stream.Stream;

/**
 * What a Linux machine runs on, by {@code /sys/class/power_supply} (the kernel's Documentation/ABI/testing/sysfs-class-power): a battery
 * that is discharging while no other supply is online. Energies are in microwatt-hours, charges in microampere-hours.
 */
final class PowerSupplies {
    private PowerSupplies() {
    }

    /** @param supplies the folder with one folder a supply; a machine without it runs on mains */
    static Power read(Path supplies) throws IOException {
        if (!Files.isDirectory(supplies)) {
            return Power.MAINS;
        }
        List<Path> all;
        try (Stream<Path> entries = Files.list(supplies)) {
            all = entries.sorted().toList();
        }
        boolean mains = all.stream().anyMatch(supply -> !text(supply, "type").equals("Battery") && text(supply, "online").equals("1"));
        List<Path> draining = all.stream().filter(supply -> text(supply, "type").equals("Battery")
            && !text(supply, "scope").equals("Device") && text(supply, "status").equals("Discharging")).toList();
        if (mains || draining.isEmpty()) {
            return Power.MAINS;
        }
        Path battery = draining.get(0);
        OptionalLong percent = number(battery, "capacity");
        return new Power(true,
            percent.isPresent() && percent.getAsLong() <= 100 ? OptionalInt.of((int) percent.getAsLong()) : OptionalInt.empty(),
            left(draining));
    }

    private static OptionalLong left(List<Path> batteries) {
        long seconds = 0;
        for (Path battery : batteries) {
            OptionalLong store = number(battery, "energy_now");
            OptionalLong drain = number(battery, "power_now");
            if (store.isEmpty() || drain.isEmpty()) {
                store = number(battery, "charge_now");
                drain = number(battery, "current_now");
            }
            if (store.isEmpty() || drain.isEmpty() || drain.getAsLong() == 0) {
                return OptionalLong.empty();
            }
            seconds += (long) (3600.0 * store.getAsLong() / drain.getAsLong());
        }
        return OptionalLong.of(seconds);
    }

    private static OptionalLong number(Path supply, String name) {
        String text = text(supply, name);
        return text.matches("-?[0-9]{1,15}") ? OptionalLong.of(Math.abs(Long.parseLong(text))) : OptionalLong.empty();
    }

    /** An attribute that a driver does not have, or cannot read just now, is none. */
    private static String text(Path supply, String name) {
        try {
            return Files.readString(supply.resolve(name)).strip();
        } catch (IOException none) {
            return "";
        }
    }
}
