package app.granary.core.target;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.machine.Machine;
import java.util.List;

/**
 * A disk that could be overwritten.
 *
 * @param id             stable within the site
 * @param name           as people know it: a label, or which disk of which computer
 * @param identity       model, serial, size
 * @param sectorBytes    its logical sector
 * @param bus            how it is attached, or an empty string
 * @param kind           what it is
 * @param attached       whether it can be reached now
 * @param readOnly       whether it is write-protected
 * @param inUse          where it is mounted, or that the running system lies on it; an empty string when neither
 * @param twins          names of other attached disks that answer alike; usually empty
 * @param images         names of images that lie on it; usually empty
 * @param writeRateBytes bytes a second it can take, by its link
 * @param machine        which machine it is in
 */
public record TargetDisk(String id, String name, DiskIdentity identity, int sectorBytes, String bus, Kind kind, boolean attached,
    boolean readOnly, String inUse, List<String> twins, List<String> images, long writeRateBytes, Machine machine) {
    /** What a target is. */
    public enum Kind {
        /** A disk of no computer. */
        SPARE,
        /** A stick, card or other small removable medium. */
        STICK,
        /** A disk that is built into a computer: hidden until asked for. */
        FIXED,
        /** A drive images lie on. */
        DRIVE;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    public TargetDisk {
        twins = List.copyOf(twins);
        images = List.copyOf(images);
    }

    /** One in the office's own machine. */
    public TargetDisk(String id, String name, DiskIdentity identity, int sectorBytes, String bus, Kind kind, boolean attached,
        boolean readOnly, String inUse, List<String> twins, List<String> images, long writeRateBytes) {
        this(id, name, identity, sectorBytes, bus, kind, attached, readOnly, inUse, twins, images, writeRateBytes, Machine.OFFICE);
    }

    /** The same, with those images on it. */
    public TargetDisk holding(List<String> names) {
        return new TargetDisk(id, name, identity, sectorBytes, bus, kind, attached, readOnly, inUse, twins, names, writeRateBytes, machine);
    }

    /** The same, in a machine that joined. */
    public TargetDisk in(Machine other) {
        return new TargetDisk(id, name, identity, sectorBytes, bus, kind, attached, readOnly, inUse, twins, images, writeRateBytes, other);
    }

    /** Name, model, serial and size, as it is named before it is overwritten. */
    public String inFull() {
        return name + " (" + identity.inWords() + ")";
    }

    /** What a person types to confirm: the last four characters of its serial, all of it when it has fewer; its name where it has none. */
    public String confirmation() {
        String serial = identity.serial().isEmpty() ? name : identity.serial();
        return serial.substring(Math.max(0, serial.length() - 4));
    }
}
