package app.granary.core.inventory;

import java.util.Optional;

/**
 * What is to be known of a computer besides its disks, so that it can be started from rescue media and its image opened.
 *
 * @param maker           or an empty string
 * @param model           or an empty string
 * @param firmware        what starts it
 * @param bootKey         the key that opens its boot menu, or an empty string while nobody has tried
 * @param secureBoot      on or off, where known
 * @param operatingSystem name and build, or an empty string
 * @param encryption      whether its disks are encrypted
 * @param keyPlace        where the key of the encrypted disks is kept
 * @param keyNote         more on that place, or an empty string; never the key itself
 */
public record ComputerFacts(String maker, String model, Firmware firmware, String bootKey, Optional<Boolean> secureBoot,
    String operatingSystem,
    Encryption encryption, KeyPlace keyPlace, String keyNote) {
    /** Nothing known. */
    public static final ComputerFacts UNKNOWN = new ComputerFacts("", "", Firmware.UNKNOWN, "", Optional.empty(), "", Encryption.UNKNOWN,
        KeyPlace.UNKNOWN, "");
}
