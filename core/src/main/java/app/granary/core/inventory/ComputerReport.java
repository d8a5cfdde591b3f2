package app.granary.core.inventory;

import java.util.List;
import java.util.Optional;

/**
 * A computer as it reports itself, or as it is known.
 *
 * @param name            never empty
 * @param maker           or an empty string
 * @param model           or an empty string
 * @param firmware        what starts it
 * @param secureBoot      on or off, where told
 * @param operatingSystem name and build, or an empty string
 * @param complete        whether it lists all disks of the computer; otherwise those it does not mention stay as they are known
 * @param line            line of the report it begins on, from 1; 0 where there are no lines
 */
public record ComputerReport(String name, String maker, String model, Firmware firmware, Optional<Boolean> secureBoot,
    String operatingSystem,
    List<DiskReport> disks, boolean complete, int line) {
    public ComputerReport {
        disks = List.copyOf(disks);
    }
}
