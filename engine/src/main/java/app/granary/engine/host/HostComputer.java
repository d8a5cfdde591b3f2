package app.granary.engine.host;

import app.granary.core.inventory.ComputerFacts;
import app.granary.core.machine.Machine;
import java.util.List;

/**
 * A computer at hand.
 *
 * @param id    stable within the site
 * @param name  as on its label
 * @param role  what it is for, or an empty string
 * @param owner who depends on it, or an empty string
 * @param facts what it tells of itself
 * @param machine what reads its disks: the office's own machine, or itself when it joined
 */
public record HostComputer(String id, String name, String role, String owner, ComputerFacts facts, List<HostDisk> disks,
    Machine machine) {
    public HostComputer {
        disks = List.copyOf(disks);
    }

    /** One whose disks the office's own machine reads. */
    public HostComputer(String id, String name, String role, String owner, ComputerFacts facts, List<HostDisk> disks) {
        this(id, name, role, owner, facts, disks, Machine.OFFICE);
    }

    /** The same, that reads its disks itself. */
    public HostComputer by(Machine other) {
        return new HostComputer(id, name, role, owner, facts, disks, other);
    }

    /** The same, with those disks. */
    public HostComputer with(List<HostDisk> others) {
        return new HostComputer(id, name, role, owner, facts, others, machine);
    }
}
