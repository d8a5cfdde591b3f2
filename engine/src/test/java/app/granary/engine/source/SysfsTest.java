package app.granary.engine.source;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Tools;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A tree as Linux lays it (Documentation/ABI/stable/sysfs-block: "diskseq" since 5.15; links of class/block into devices). */
class SysfsTest {
    private static final String USB = "devices/pci0000:00/0000:00:14.0/usb2/2-1/2-1:1.0/host%1$d/target%1$d:0:%2$d/%1$d:0:%2$d:0/block/sdz";

    @TempDir
    Path sys;
    @TempDir
    Path dev;

    private Path disk(String at, String diskseq) {
        Tools.run(sys,
            "rm -rf devices class; mkdir -p class/block " + at + "; ln -s ../../" + at + " class/block/sdz; touch " + dev + "/sdz"
                + (diskseq.isEmpty() ? "" : "; echo " + diskseq + " > " + at + "/diskseq"));
        return dev.resolve("sdz");
    }

    @Test
    void anAttachmentIsTheKernelsCountOrElseTheConnector() {
        String first = Sysfs.attachment(sys, disk(USB.formatted(3, 0), "17"));
        assertTrue(first.matches("[0-9a-f]{8}-17"), first);
        assertEquals(first.replaceFirst("17$", "18"), Sysfs.attachment(sys, disk(USB.formatted(4, 0), "18")));
        // an older kernel counts none: a disk on that connector is told by the connector, under whatever number the system gives it
        String connector = "pci0000:00/0000:00:14.0/usb2/2-1/2-1:1.0/host/target:0:0/0:0:0";
        assertEquals(connector, Sysfs.reached(sys, disk(USB.formatted(3, 0), "")));
        assertEquals(connector + "-sdz", Sysfs.attachment(sys, disk(USB.formatted(3, 0), "")));
        assertEquals(connector + "-sdz", Sysfs.attachment(sys, disk(USB.formatted(9, 0), "")), "a disk exchanged unseen cannot be told");
        assertTrue(!Sysfs.attachment(sys, disk(USB.formatted(3, 1), "")).equals(connector + "-sdz"), "a dock's other unit");
        assertEquals("", Sysfs.reached(sys, dev.resolve("gone")));
    }

    /** The seventh figure of stat is sectors written (Linux, Documentation/block/stat.rst). */
    @Test
    void whatIsWrittenChangesItsState() {
        Path disk = disk(USB.formatted(3, 0), "17");
        assertEquals("", Sysfs.state(sys, disk), "nothing is told");
        String at = "$(readlink -f class/block/sdz)";
        Tools.run(sys, "echo '  10 11 12 13 14 15 160 17 18 19 20' > " + at + "/stat");
        String before = Sysfs.state(sys, disk);
        Tools.run(sys, "echo '  99 98 97 96 14 15 160 17 18 19 20' > " + at + "/stat");
        assertEquals(before, Sysfs.state(sys, disk), "it was only read");
        Tools.run(sys, "echo '  99 98 97 96 15 15 168 17 18 19 20' > " + at + "/stat");
        assertTrue(!before.equals(Sysfs.state(sys, disk)));
        Tools.run(sys, "mkdir " + at + "/loop");
        assertEquals("", Sysfs.state(sys, disk), "its file may be written past it");
    }
}
