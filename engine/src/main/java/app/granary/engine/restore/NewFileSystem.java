package app.granary.engine.restore;

import app.granary.core.fault.Fault;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;

/** An empty file system, made by the system's own tool for its kind. */
final class NewFileSystem {
    private static final Duration PATIENCE = Duration.ofMinutes(10);
    private static final Map<String, String> PACKAGES = Map.of("mkfs.vfat", "dosfstools", "mkfs.exfat", "exfatprogs", "mkntfs", "ntfs-3g",
        "mkfs.ext4", "e2fsprogs");

    private NewFileSystem() {
    }

    /**
     * @param kind        "vfat", "exfat", "ntfs" or "ext4"
     * @param place       a file or device of the partition's length
     * @param startSector where the partition begins on its disk
     * @param remaining   what a failure leaves, the last sentence of what is told
     */
    static void make(String kind, String label, Path place, long startSector, int sectorBytes, String remaining) throws IOException {
        String start = "" + startSector;
        String path = place.toString();
        List<String> command = switch (kind) {
            case "vfat" -> List.of("mkfs.vfat", "-F", "32", "-S", "" + sectorBytes, "-h", start, "-n", label, path);
            case "exfat" -> List.of("mkfs.exfat", "-L", label, path);
            case "ntfs" -> List.of("mkntfs", "-Q", "-F", "-s", "" + sectorBytes, "-p", start, "-H", "255", "-S", "63", "-L", label, path);
            default -> List.of("mkfs.ext4", "-q", "-F", "-L", label, path);
        };
        String tool = command.get(0);
        SystemTool.Said said = SystemTool.run(command, true, PATIENCE,
            "Install " + PACKAGES.get(tool) + ", or choose another file system. " + remaining);
        if (said.exit() != 0) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, tool, tool + " could not make the file system: " + said.text() + " " + remaining)
                .asException();
        }
    }
}
