package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionType;
import app.granary.core.fault.FaultException;
import app.granary.engine.media.Tools;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LoopDeviceTest {
    @TempDir
    Path folder;

    /** Something that looks at all devices had it open at that moment, and what was written came to the target only later. */
    @Test
    void whatWasWrittenIsOnTheTargetThoughSomebodyElseHasTheDeviceOpen() throws IOException {
        Tools.run(folder, "truncate -s 8M disk.img; head -c 1M /dev/urandom > news");
        Partition partition = new Partition(1, 1 << 20, 4 << 20, PartitionType.of("83"), "", "", 0, false);
        LoopDevice device;
        try {
            device = LoopDevice.over(folder.resolve("disk.img"), partition);
        } catch (FaultException none) {
            Assumptions.abort("no loop devices here: " + none.getMessage());
            return;
        }
        try (FileChannel other = FileChannel.open(device.path(), StandardOpenOption.READ)) {
            Tools.run(folder, "dd if=news of=" + device.path() + " bs=64k status=none");
            device.close();
            assertEquals(4L << 20, other.size());
            Tools.run(folder, "dd if=disk.img of=there bs=1M skip=1 count=1 status=none; cmp news there");
        }
    }
}
