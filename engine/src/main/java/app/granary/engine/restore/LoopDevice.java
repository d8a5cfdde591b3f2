package app.granary.engine.restore;

import app.granary.core.disk.Partition;
import app.granary.core.fault.Fault;
import app.granary.engine.tool.SystemTool;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.List;

/**
 * One partition of a disk or of a file as a device of its own, for the system's tools; whether or not the system has looked at the new
 * table yet. Nobody else uses it, and it goes when it is closed.
 */
record LoopDevice(Path path) implements Closeable {
    private static final Duration PATIENCE = Duration.ofMinutes(1);
    private static final String LOOP = "losetup";
    private static final String INSTALL = "Install mount, and try again.";

    static LoopDevice over(Path target, Partition partition) throws IOException {
        SystemTool.Said said = SystemTool.run(List.of(LOOP, "--find", "--show", "--offset", "" + partition.startBytes(), "--sizelimit", ""
            + partition.sizeBytes(), target.toString()), true, PATIENCE, INSTALL);
        if (said.exit() != 0) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, target.toString(), "no loop device could be had (" + said.text() + ").")
                .asException();
        }
        return new LoopDevice(Path.of(said.text()));
    }

    /** What was written goes to the target now: while anybody else has the device open it stays, and with it what it holds in memory. */
    @Override
    public void close() throws IOException {
        try (FileChannel device = FileChannel.open(path, StandardOpenOption.WRITE)) {
            device.force(true);
        } finally {
            SystemTool.run(List.of(LOOP, "-d", path.toString()), true, PATIENCE, INSTALL);
        }
    }
}
