package app.granary.standins;

import app.granary.core.rescue.BootImage;
import app.granary.core.target.TargetDisk;
import app.granary.engine.host.OverwriteWork;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Where the bytes of targets lie, and by which scale they were written. */
final class TargetFiles {
    private static final String SCALE = ".scale";
    private static final String OWN = "disk-";

    private final Path folder;
    private final SimulatedDevices devices;

    TargetFiles(Path folder, SimulatedDevices devices) {
        this.folder = folder;
        this.devices = devices;
    }

    static void lengthen(Path file, long bytes) throws IOException {
        try (RandomAccessFile raw = new RandomAccessFile(file.toFile(), "rw")) {
            raw.setLength(bytes);
        }
    }

    /** Real length of a target when one of its bytes stands for so many. */
    static long realBytes(long bytes, long factor) {
        return bytes / factor / 512 * 512;
    }

    Path of(String standInId) {
        return folder.resolve(standInId + ".img");
    }

    /** By which what is on a spare or stick was written. */
    long scale(String standInId) throws IOException {
        Path note = folder.resolve(standInId + SCALE);
        return Files.exists(note) ? Long.parseLong(Files.readString(note).strip()) : 1;
    }

    /** The same of any target. */
    long factor(TargetDisk disk) throws IOException {
        return disk.id().startsWith(OWN) ? devices.disk(disk.id().substring(OWN.length())).scale() : scale(disk.id());
    }

    /** Where its bytes lie: an own disk of a computer is the file it is read from. */
    Path bytes(TargetDisk disk) throws IOException {
        return disk.id().startsWith(OWN) ? devices.file(devices.disk(disk.id().substring(OWN.length()))) : of(disk.id());
    }

    Path log(TargetDisk disk) {
        return folder.resolve(disk.id() + ".log");
    }

    /** As long as its size by that scale; what it held by another scale is gone. */
    Path ready(TargetDisk disk, long factor) throws IOException {
        Path file = bytes(disk);
        long bytes = realBytes(disk.identity().sizeBytes(), factor);
        if (!Files.exists(file) || Files.size(file) != bytes) {
            Files.deleteIfExists(file);
            lengthen(file, bytes);
        }
        if (!disk.id().startsWith(OWN)) {
            Note.write(folder.resolve(disk.id() + SCALE), factor + "\n");
        }
        return file;
    }

    /** What lies on it, unchanged; an empty one where nothing was written yet. */
    Path there(TargetDisk disk) throws IOException {
        return Files.exists(bytes(disk)) ? bytes(disk) : ready(disk, 1);
    }

    /** Both keys carry a rescue system already, the older one. */
    void onKeys(Path system) throws IOException {
        if (!Files.exists(of("key-a"))) {
            for (String key : List.of("key-a", "key-c")) {
                Files.copy(system, of(key));
                lengthen(of(key), StandInTarget.of(key).sizeBytes());
            }
        }
    }

    List<String> holds(StandInTarget target) throws IOException {
        if (!Files.exists(of(target.id()))) {
            return List.of("nothing: it is blank");
        }
        try (RawSource source = RawSource.open(of(target.id()))) {
            BootImage boot = target.kind() == TargetDisk.Kind.STICK ? BootImage.read(source)
                : new BootImage(BootImage.Kind.NEITHER, "", 0, List.of(), "");
            return boot.kind() == BootImage.Kind.ISO ? List.of("the rescue system " + boot.label()) : OverwriteWork.holds(source,
                scale(target.id()));
        }
    }
}
