package app.granary.standins;

import java.util.Set;

/**
 * Which of the made-up office's devices a process tells of: the office's own machine has those that are attached to it, a laptop its own
 * disk.
 *
 * @param computers whose disks, by name; what is taken out of a set that changes is told of no longer
 * @param bench     whether the office's drives, spares and sticks are among them
 */
record Share(Set<String> computers, boolean bench) {
    boolean has(StandInDisk disk) {
        return computers.contains(disk.computer());
    }
}
