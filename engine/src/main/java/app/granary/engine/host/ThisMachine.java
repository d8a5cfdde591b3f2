package app.granary.engine.host;

import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/** What Linux tells of the machine Granary runs on: DMI names, firmware, secure boot, operating system. What cannot be read is unknown. */
final class ThisMachine {
    private static final Path DMI = Path.of("/sys/class/dmi/id");
    private static final Path EFI = Path.of("/sys/firmware/efi");
    /** The variable's value follows four bytes of attributes (UEFI Specification 2.10, section 3.3; kernel documentation, "efivarfs"). */
    private static final int VALUE_AT = 4;

    private ThisMachine() {
    }

    static ComputerFacts facts() {
        return new ComputerFacts(text(DMI.resolve("sys_vendor")), text(DMI.resolve("product_name")),
            Files.isDirectory(EFI) ? Firmware.UEFI : Firmware.BIOS, "", secureBoot(),
            operatingSystem(), Encryption.UNKNOWN, KeyPlace.UNKNOWN, "");
    }

    private static String text(Path file) {
        try {
            return Files.readString(file).strip();
        } catch (IOException unreadable) {
            return "";
        }
    }

    private static Optional<Boolean> secureBoot() {
        try (DirectoryStream<Path> found = Files.newDirectoryStream(EFI.resolve("efivars"), "SecureBoot-*")) {
            for (Path variable : found) {
                byte[] value = Files.readAllBytes(variable);
                if (value.length > VALUE_AT) {
                    return Optional.of(value[VALUE_AT] == 1);
                }
            }
        } catch (IOException none) {
            // not a UEFI system, or its variables are not shown
        }
        return Optional.empty();
    }

    private static String operatingSystem() {
        String name = text(Path.of("/etc/os-release")).lines().filter(line -> line.startsWith("PRETTY_NAME=")).findFirst()
            .map(line -> line.substring("PRETTY_NAME=".length()).replace("\"", "")).orElse(System.getProperty("os.name"));
        return name + ", " + System.getProperty("os.version");
    }
}
