package app.granary.engine.restore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Attachments;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageInsides;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.InsideDisk;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.OptionalLong;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The computer is Debian's QEMU; its screen is asked for as RFC 6143 has it. */
@Tag("virtual-machine")
class VirtualComputerTest {
    @TempDir
    Path folder;

    private InsideDisk image() throws IOException {
        try (RawSource source = RawSource.open(TinySystem.make(folder))) {
            ImageWork.capture(source, new DiskIdentity("m", "s", source.sizeBytes()), new Storage(Codec.ZSTD, 3, OptionalLong.empty(),
                SurveyChoice.USED), "tiny", folder, Clock.systemUTC(), Watch.NONE);
        }
        return new InsideDisk(new ImageInsides(image -> folder.resolve(image.name()), image -> {
            throw new IllegalStateException("Granary's own alone");
        }), ImageAt.of("drive", "tiny"));
    }

    @Test
    void anImageIsAComputerToWorkAtWhoseChangesAreThrownAway() throws Exception {
        InsideDisk disk = image();
        assertFalse(disk.uefi());
        String before = Tools.run(folder, "cd tiny && find . -type f | sort | xargs sha256sum");
        Path own = folder.resolve("own, with a comma");
        try (VirtualComputer computer = VirtualComputer.start(disk, false, 512, own)) {
            assertTrue(computer.running());
            try (Socket screen = new Socket(InetAddress.getLoopbackAddress(), computer.port())) {
                assertEquals("RFB 003.008\n", new String(screen.getInputStream().readNBytes(12), StandardCharsets.US_ASCII));
            }
            assertTrue(computer.changedBytes() > 0);
            assertTrue(Tools.run(folder, "qemu-img info -U '" + own + "/changes.qcow2'").contains("backing file: nbd+unix"));
            computer.pressSwitch();
        }
        assertFalse(Files.exists(own));
        assertEquals(before, Tools.run(folder, "cd tiny && find . -type f | sort | xargs sha256sum"));
    }

    /** What it wrote is put there by {@code qemu-io}, and what was written of it held against {@code qemu-img convert}. */
    @Test
    void whatItLeftGoesOntoADisk() throws Exception {
        Path own = folder.resolve("own");
        Path target = Files.createDirectories(folder.resolve("targets")).resolve("spare.img");
        Tools.run(folder, "truncate -s 32M targets/spare.img; mkdir raw images scratch");
        Overwriting bench = new MachineHost("bench", folder.resolve("raw"), folder.resolve("images"), folder.resolve("scratch"),
            Clock.systemUTC(), Attachments.DISKS, java.util.List.of()).overwriting();
        String id = bench.targets().stream().filter(each -> each.name().equals("spare.img")).findFirst().orElseThrow().id();
        try (VirtualComputer computer = VirtualComputer.start(image(), false, 512, own)) {
            assertTrue(assertThrows(FaultException.class, computer::changed).getMessage().contains("still running"));
            Tools.run(folder, "kill $(cat own/pid)");
            for (int look = 0; computer.running() && look < 100; look++) {
                Thread.sleep(50);
            }
            Tools.run(folder, "qemu-io -f qcow2 -c 'write -q -P 0x5a 1M 512' own/changes.qcow2; "
                + "qemu-img convert -O raw own/changes.qcow2 as-left.img");
            Overwriting.From left = new Overwriting.From.Changed(ImageAt.of("drive", "tiny"), computer::changed);
            assertTrue(bench.layout(left, id, Firmware.UNKNOWN, LayoutChoice.KEEP).fits());
            assertEquals(java.util.List.of(), bench.write(left, Overwriting.Confirmed.of(bench.target(id)), Firmware.UNKNOWN,
                LayoutChoice.KEEP, new Overwriting.How(true, false, true, false), Watch.NONE).differences());
        }
        assertEquals("", Tools.run(folder, "cmp -n 25165824 as-left.img targets/spare.img"), target.toString());
    }

    @Test
    void whatAKillLeftRunningIsEndedByTheNextStart() throws Exception {
        Path own = folder.resolve("own");
        try (VirtualComputer computer = VirtualComputer.start(image(), false, 512, own)) {
            VirtualComputer.sweep(own);
            for (int look = 0; computer.running() && look < 100; look++) {
                Thread.sleep(50);
            }
            assertFalse(computer.running());
            assertFalse(Files.exists(own));
        }
        Path another = Files.createDirectories(folder.resolve("another"));
        Files.writeString(another.resolve("pid"), "" + ProcessHandle.current().pid());
        VirtualComputer.sweep(another); // the number is this program's, which was not started from there
        assertFalse(Files.exists(another));
    }

    /** What cannot be read is told by the machine's own last line, and nothing stays behind. */
    @Test
    void whatDoesNotStartLeavesNothing() throws Exception {
        BlockSource none = new BlockSource() {
            @Override
            public String name() {
                return "none";
            }

            @Override
            public long sizeBytes() {
                return 1 << 20;
            }

            @Override
            public int sectorBytes() {
                return 512;
            }

            @Override
            public void read(long offsetBytes, ByteBuffer into) throws IOException {
                throw new IOException("gone");
            }
        };
        Path own = folder.resolve("own");
        FaultException told = assertThrows(FaultException.class, () -> VirtualComputer.start(none, false, 900_000_000, own));
        assertTrue(told.fault().sentence().startsWith("The computer did not start: "), told.fault().sentence());
        assertFalse(Files.exists(own));
    }
}
