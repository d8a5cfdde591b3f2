package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.Sysfs;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** Which disk a path stands for, and what must not happen to it. */
public final class BlockDevices {
    /** Linux shows an extended partition, which holds the logical ones, as a device of one or two sectors; nobody can use it. */
    private static final int CONTAINER_BYTES = 8192;

    private static final Duration PATIENCE = Duration.ofSeconds(60);

    private BlockDevices() {
    }

    /** A disk named by path, with its identity and, for a device, everything on it. */
    public static final class Identified {
        private final Path path;
        private final DiskIdentity identity;
        private final Optional<Lsblk.Device> device;

        private Identified(Path path, DiskIdentity identity, Optional<Lsblk.Device> device) {
            this.path = path;
            this.identity = identity;
            this.device = device;
        }

        public DiskIdentity identity() {
            return identity;
        }

        /** @throws app.granary.core.fault.FaultException when anything holds it, or that cannot be told: a disk in use is not imaged */
        public void requireIdle() throws IOException {
            hold(path).close();
        }

        /** Number of the partition of this disk a folder lies on; empty when it lies elsewhere, or on no partition. */
        public OptionalInt partitionOf(Path folder) throws IOException {
            return device.isPresent() && Files.isDirectory(folder) && holds(folder)
                ? Sysfs.partition(Path.of(Files.getFileStore(folder).name())) : OptionalInt.empty();
        }

        /** Whether a folder lies on this disk, through partitions, loop mounts and links. */
        public boolean holds(Path folder) throws IOException {
            if (!Files.isDirectory(folder)) {
                return false;
            }
            String store = Files.getFileStore(folder).name();
            if (device.isPresent()) {
                return device.get().has(store);
            }
            Path backing = Path.of("/sys/class/block", String.valueOf(Path.of(store).getFileName()).replaceAll("p[0-9]+$", ""), "loop",
                "backing_file");
            return Files.isReadable(backing) && Path.of(Files.readString(backing).strip()).equals(path.toRealPath());
        }
    }

    /** Finds out which disk {@code path} is; a raw file has no serial of its own. */
    public static Identified identify(Path path, BlockSource source) throws IOException {
        if (Files.isRegularFile(path) || Files.isDirectory(path)) {
            return new Identified(path, new DiskIdentity("raw image file", "", source.sizeBytes()), Optional.empty());
        }
        Optional<Lsblk.Device> device = find(path);
        DiskIdentity identity = device.map(Lsblk.Device::identity).orElse(new DiskIdentity("", "", 0)).withSize(source.sizeBytes());
        return new Identified(path, identity, device);
    }

    /**
     * Holds a device or a file for as long as a run lasts.
     *
     * @throws app.granary.core.fault.FaultException when anything else holds it - a mount, swap, a set of disks, an open volume, another
     *                                               program - or that cannot be told
     */
    public static DeviceHold hold(Path path) throws IOException {
        return hold(path, path.toString());
    }

    /** @param name of the disk, for people: a path of this program's own tells them nothing */
    static DeviceHold hold(Path path, String name) throws IOException {
        try {
            return DeviceHold.of(path);
        } catch (DeviceHold.HeldElsewhere inUse) {
            throw Fault.of(Fault.Kind.FORBIDDEN, name, name + " is in use: " + by(path)
                + (Files.isRegularFile(path) ? ". Detach it there first."
                    : ". Unmount it, or start this computer from rescue media first."))
                .asException();
        }
    }

    /** Whether a folder lies on a disk, through partitions of it. */
    static boolean liesOn(Path folder, Path disk) throws IOException {
        String store = Files.getFileStore(folder).name();
        return !Files.isRegularFile(disk) && find(disk).filter(each -> each.has(store)).isPresent();
    }

    /**
     * Holds all partitions of a disk but one, which an image of the others is written to.
     *
     * @param name of the disk, for people
     * @throws app.granary.core.fault.FaultException when another of them is held by anything else, or that cannot be told
     */
    public static Held holdBeside(Path disk, int partition, String name) throws IOException {
        List<DeviceHold> held = new ArrayList<>();
        try {
            for (Lsblk.Device part : find(disk).map(Lsblk.Device::children).orElse(List.of())) {
                Path path = Path.of(part.path());
                if (part.type().equals("part") && Sysfs.partition(path).orElse(0) != partition && part.sizeBytes() > CONTAINER_BYTES) {
                    held.add(hold(path, name + ", partition " + Sysfs.partition(path).orElse(0)));
                }
            }
            forget(disk);
            return new Held(held);
        } catch (IOException inUse) {
            new Held(held).close();
            throw inUse;
        }
    }

    /**
     * What was read of the whole disk earlier, for an estimate, stays in the system's memory as long as one partition of it is mounted,
     * whatever was written to the others through their own devices since (Linux drops it with the last who has the disk open). BLKFLSBUF
     * drops it now (blockdev(8)).
     */
    private static void forget(Path disk) throws IOException {
        SystemTool.Said said = SystemTool.run(List.of("blockdev", "--flushbufs", disk.toString()), true, PATIENCE, "");
        if (said.exit() != 0) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, disk.toString(), "The system would not read " + disk + " anew (" + said.text().strip()
                + "), so the image could hold what was there before. Make it onto another drive.").asException();
        }
    }

    /** What a run holds, all of it or nothing. */
    public record Held(List<DeviceHold> each) implements AutoCloseable {
        public Held {
            each = List.copyOf(each);
        }

        @Override
        public void close() {
            each.forEach(DeviceHold::close);
        }
    }

    /** By what other than this program a device is held, in words; an empty string when by nothing. */
    static String heldBy(Path path) throws IOException {
        if (DeviceHold.isOurs(path)) {
            return "";
        }
        try (DeviceHold free = DeviceHold.of(path)) {
            return "";
        } catch (DeviceHold.HeldElsewhere inUse) {
            return by(path);
        } catch (FaultException cannotTell) {
            return "that cannot be told by this account";
        }
    }

    /** Not everything that holds a device is in the list of mounts: of a set of disks only one member is. */
    private static String by(Path path) throws IOException {
        if (Files.isRegularFile(path)) {
            List<String> loops = Sysfs.loopsOf(path.toRealPath());
            return loops.isEmpty() ? "another program has it locked" : "/dev/" + String.join(", /dev/", loops) + " is made of it";
        }
        List<Lsblk.Device> tree = find(path).map(Lsblk.Device::tree).orElse(List.of());
        List<String> mounted = tree.stream().flatMap(each -> each.mountPoints().stream()).toList();
        List<String> above = tree.stream().skip(1).filter(each -> !each.type().equals("part")).map(each -> each.path() + " (" + each.type()
            + ")").toList();
        if (!mounted.isEmpty()) {
            return "mounted at " + String.join(", ", mounted);
        }
        return above.isEmpty() ? "this system holds it, as one of a set of disks, as swap or for another program" : "it is part of "
            + String.join(", ", above);
    }

    private static Optional<Lsblk.Device> find(Path path) throws IOException {
        String real = path.toRealPath().toString();
        return Lsblk.devices().stream().flatMap(d -> d.tree().stream()).filter(d -> d.path().equals(real)).findFirst();
    }

    /**
     * @param serial the serial the person typed; empty when none was
     * @throws app.granary.core.fault.FaultException unless the device has exactly that serial and nothing on it is mounted
     */
    public static void requireOverwritable(Path path, String serial) throws IOException {
        Lsblk.Device device = find(path).orElseThrow(() -> Fault
            .of(Fault.Kind.NOT_RECOGNISED, path.toString(), path + " is not among this machine's disks. Check the path.").asException());
        if (device.serial().isEmpty() || !device.serial().equals(serial)) {
            String named = device.serial().isEmpty() ? "has no serial number, so it cannot be told from another"
                : "is " + device.model() + ", serial " + device.serial();
            throw Fault.of(Fault.Kind.FORBIDDEN, path.toString(), "Nothing was written: " + path + " " + named + ", " + device.sizeBytes()
                + " bytes. To overwrite a device, give its own serial with --overwrite-serial.").asException();
        }
        List<String> twins = Attachments.of(Lsblk.devices(), Attachments.DISKS).all().stream()
            .filter(each -> !each.device().path().equals(device.path())
                && each.device().identity().alike(device.identity()))
            .map(each -> each.device().path()).toList();
        if (!twins.isEmpty()) {
            throw Fault.of(Fault.Kind.FORBIDDEN, path.toString(), "Nothing was written: " + path + " and " + String.join(", ", twins)
                + " give the same serial, so it cannot be told which is meant. Take the others off, and try again.").asException();
        }
        new Identified(path, device.identity(), Optional.of(device)).requireIdle();
    }
}
