package app.granary.engine.host;

import app.granary.core.inventory.ComputerFacts;
import java.util.List;

/**
 * A computer at hand.
 *
 * @param id    stable within the site
 * @param name  as on its label
 * @param role  what it is for, or an empty string
 * @param owner who depends on it, or an empty string
 * @param facts what it tells of itself
 */
public record HostComputer(String id, String name, String role, String owner, ComputerFacts facts, List<HostDisk> disks) {
    public HostComputer {
        disks = List.copyOf(disks);
    }

    /** The same, with those disks. */
    public HostComputer with(List<HostDisk> others) {
        return new HostComputer(id, name, role, owner, facts, others);
    }
}
