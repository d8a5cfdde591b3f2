package app.granary.engine.source;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;

/** Asks the kernel about a block device (Linux, Documentation/ABI/stable/sysfs-block). */
public final class Sysfs {
    private static final Path SYS = Path.of("/sys");
    /** Place of the sectors written in the figures of a device, from 1. */
    private static final int WRITTEN = 7;

    private Sysfs() {
    }

    /**
     * The connector a device is reached by: its place among the buses without the numbers the system gives to each attachment of it. The
     * unit behind a bridge stays, since a dock shows several disks on one connector. An empty string where the kernel does not tell.
     */
    public static String reached(Path device) {
        return reached(SYS, device);
    }

    static String reached(Path sys, Path device) {
        try {
            Path real = sys.toRealPath().relativize(sys.resolve("class/block").resolve(device.toRealPath().getFileName()).toRealPath());
            return real.toString().replaceFirst("/block/[^/]+$", "").replaceFirst("^devices/", "").replaceAll("host\\d+", "host")
                .replaceAll("target\\d+:", "target:").replaceAll("/\\d+:(\\d+:\\d+:\\d+)$", "/$1");
        } catch (IOException notTold) {
            return "";
        }
    }

    /**
     * Of this attachment of a device: the kernel counts them since it started ("diskseq", Linux 5.15), so that a disk which was pulled and
     * plugged in again is another attachment. Where it does not count, the connector and the device's name.
     */
    public static String attachment(Path device) {
        return attachment(SYS, device);
    }

    static String attachment(Path sys, Path device) {
        try {
            String counted = Files.readString(sys.resolve("class/block").resolve(device.toRealPath().getFileName()).resolve("diskseq"))
                .strip();
            return Files.readString(Path.of("/proc/sys/kernel/random/boot_id")).strip().substring(0, 8) + "-" + counted;
        } catch (IOException notCounted) {
            return reached(sys, device) + "-" + device.getFileName();
        }
    }

    /**
     * What changes with whatever is written to a device: its attachment, and the sectors written since the system started (Linux,
     * Documentation/block/stat.rst, the seventh figure). An empty string where the kernel does not tell, and for a loop device, whose file
     * may be written past it.
     */
    public static String state(Path device) {
        return state(SYS, device);
    }

    static String state(Path sys, Path device) {
        try {
            Path block = sys.resolve("class/block").resolve(device.toRealPath().getFileName());
            if (Files.exists(block.resolve("loop"))) {
                return "";
            }
            String[] figures = Files.readString(block.resolve("stat")).strip().split("\\s+");
            return figures.length < WRITTEN ? "" : attachment(sys, device) + " " + figures[WRITTEN - 1];
        } catch (IOException notTold) {
            return "";
        }
    }

    /** Number of a partition on its disk; empty for what is none. */
    public static OptionalInt partition(Path device) {
        try {
            Path number = SYS.resolve("class/block").resolve(device.toRealPath().getFileName()).resolve("partition");
            return Files.exists(number) ? OptionalInt.of(Integer.parseInt(Files.readString(number).strip())) : OptionalInt.empty();
        } catch (IOException | NumberFormatException notTold) {
            return OptionalInt.empty();
        }
    }

    /** Loop devices that are made of a file, by name; usually none. */
    public static List<String> loopsOf(Path file) throws IOException {
        Path blocks = Path.of("/sys/block");
        if (!Files.isDirectory(blocks)) {
            return List.of();
        }
        List<String> out = new ArrayList<>();
        try (DirectoryStream<Path> loops = Files.newDirectoryStream(blocks, "loop*")) {
            for (Path loop : loops) {
                Path backing = loop.resolve("loop/backing_file");
                if (Files.isReadable(backing) && Files.readString(backing).strip().equals(file.toString())) {
                    out.add(loop.getFileName().toString());
                }
            }
        } catch (java.nio.file.NoSuchFileException | java.nio.file.DirectoryIteratorException detached) {
            // a loop that goes while it is looked at is none
        }
        return out;
    }

    /** Logical sector in bytes; 512 where the kernel does not tell. */
    public static int sectorBytes(Path device) throws IOException {
        Path size = Path.of("/sys/class/block", device.toRealPath().getFileName().toString(), "queue", "logical_block_size");
        if (!Files.isReadable(size)) {
            return 512;
        }
        return Integer.parseInt(Files.readString(size).strip());
    }
}
