package app.granary.cli;

import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.host.BlockDevices;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import app.granary.engine.source.Sysfs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What every command that writes a disk takes: a new file, or a device that is named again by its serial. */
final class TargetArgument {
    @Parameters(index = "+", paramLabel = "TARGET", description = "a new file, or a block device")
    private Path target;
    @Option(names = "--overwrite-serial", paramLabel = "SERIAL",
        description = "serial number of the device to overwrite; everything on it goes")
    private String serial;
    @Option(names = "--target-size", paramLabel = "BYTES", description = "length of the new file (default: that of the disk)")
    private Long size;

    /** What is written while the target is held. */
    interface Work<T> {
        T onto(RestoreTarget to) throws IOException;
    }

    Path path() {
        return target;
    }

    boolean isDevice() {
        return Files.exists(target) && !Files.isRegularFile(target) && !Files.isDirectory(target);
    }

    /** Refuses what may not be overwritten before anything that takes long is begun. */
    void require() throws IOException {
        if (isDevice()) {
            BlockDevices.requireOverwritable(target, serial == null ? "" : serial);
        } else if (serial != null) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, target.toString(),
                target + " is no device, so --overwrite-serial does not apply. Name the device, or leave the serial out.").asException();
        } else if (Files.exists(target) && (Files.isDirectory(target) || Files.size(target) > 0)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, target.toString(), target
                + " exists and is not empty; nothing was written. Name a new file.").asException();
        }
    }

    /** @param usual of a file for which no length was asked */
    long bytes(long usual, int sectorBytes) throws IOException {
        if (isDevice()) {
            try (RawSource source = RawSource.open(target)) {
                return source.sizeBytes();
            }
        }
        long bytes = size == null ? usual : size;
        if (bytes <= 0 || bytes % sectorBytes != 0) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, target.toString(), bytes
                + " bytes is no length of a disk: it must be a whole number of sectors of " + sectorBytes + " bytes.").asException();
        }
        return bytes;
    }

    /** @param usual of a file */
    int sectorBytes(int usual) throws IOException {
        return isDevice() ? Sysfs.sectorBytes(target) : usual;
    }

    /** A device has a table of its own, by which partitions that are not written can stay. */
    LayoutTarget into(long bytes, int sectorBytes) throws IOException {
        if (!isDevice()) {
            return LayoutTarget.blank(bytes, sectorBytes, Firmware.UNKNOWN);
        }
        try (RawSource there = RawSource.open(target)) {
            return new LayoutTarget(bytes, sectorBytes, Firmware.UNKNOWN, PartitionTables.read(there), RestoreLayout.ALIGN);
        }
    }

    /** A device is held until it is written, and looked at once more before its first byte: what came before took a moment. */
    <T> T write(long bytes, long neededBytes, int sectorBytes, Work<T> work) throws IOException {
        if (!isDevice()) {
            return work.onto(RestoreTarget.file(target, bytes, sectorBytes));
        }
        require();
        try (DeviceHold held = BlockDevices.hold(target)) {
            return work.onto(RestoreTarget.device(target, neededBytes, sectorBytes));
        }
    }
}
