package app.granary.engine.source;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Asks the kernel about a block device (Linux, Documentation/ABI/stable/sysfs-block). */
public final class Sysfs {
    private Sysfs() {
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
