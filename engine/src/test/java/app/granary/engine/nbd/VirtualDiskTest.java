package app.granary.engine.nbd;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The containers are made by Debian's {@code qemu-img}; what is read is held against the disk they were made of. */
class VirtualDiskTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource({"qcow2,''", "vhdx,''", "vpc,'-o subformat=dynamic,force_size=on'", "vpc,'-o subformat=fixed,force_size=on'", "vmdk,''",
        "vmdk,'-o subformat=twoGbMaxExtentFlat'"})
    void aVirtualDiskIsReadAsTheDiskInIt(String format, String how) throws IOException {
        Path raw = Medium.MBR_FAT12.make(folder);
        Path file = folder.resolve("disk.bin");
        Tools.run(folder, "qemu-img convert -q -f raw -O " + format + " " + how + " " + raw.getFileName() + " disk.bin");
        try (RawSource bytes = RawSource.open(file)) {
            assertEquals(Optional.of(format), VirtualDisk.format(bytes));
        }
        try (RawSource was = RawSource.open(raw); VirtualDisk disk = VirtualDisk.open(file, format)) {
            assertEquals(was.sizeBytes(), disk.sizeBytes());
            assertEquals(PartitionTables.read(was), PartitionTables.read(disk));
            ByteBuffer one = ByteBuffer.allocate((int) Math.min(3_000_001, was.sizeBytes()));
            ByteBuffer other = ByteBuffer.allocate(one.capacity());
            was.read(was.sizeBytes() - one.capacity(), one);
            disk.read(was.sizeBytes() - one.capacity(), other);
            assertArrayEquals(one.array(), other.array());
            assertThrows(IOException.class, () -> disk.read(disk.sizeBytes() - 1, ByteBuffer.allocate(2)));
        }
        assertEquals("0\n", Tools.run(folder, "pgrep -fc '[q]emu-nbd.*" + file + "' || true"));
    }

    /**
     * A socket has its name a moment before anybody listens at it (bind(2), listen(2)): on a busy machine a virtual disk could not be read
     * at times, with the words for a device that fails.
     */
    @Test
    void oneThatIsOnlyJustServedIsWaitedFor() throws Exception {
        Path socket = folder.resolve("disk");
        Process late = new ProcessBuilder("python3", "-c", """
            import socket, struct, time
            s = socket.socket(socket.AF_UNIX)
            s.bind('disk')
            print('bound', flush=True)
            time.sleep(0.3)
            s.listen(1)
            c = s.accept()[0]
            c.sendall(b'NBDMAGICIHAVEOPT' + struct.pack('>H', 3))
            c.recv(100)
            c.sendall(struct.pack('>QH', 4096, 3))
            c.recv(1)
            """).directory(folder.toFile()).start();
        assertEquals("bound", late.inputReader().readLine());
        try (NbdSource disk = NbdSource.served(socket, "late.qcow2", Duration.ofSeconds(20), late::isAlive).orElseThrow()) {
            assertEquals(4096, disk.sizeBytes());
        }
        assertEquals(0, late.waitFor());
        Path nobody = folder.resolve("nobody");
        assertEquals(Optional.empty(), NbdSource.served(nobody, "none", Duration.ofSeconds(20), () -> false));
        assertEquals(Optional.empty(), NbdSource.served(nobody, "none", Duration.ofMillis(50), () -> true));
    }

    /** One that names a file of the machine would have this program read it for whoever made it. */
    @Test
    void oneThatReadsFromSomewhereElseIsRefused() throws IOException {
        Path secret = Files.createDirectories(folder.resolve("secret"));
        Tools.run(folder, "head -c 65536 /dev/zero > secret/key; mkdir lent; cd lent; qemu-img create -q -f qcow2 -F raw -b ../secret/key "
            + "a.qcow2; qemu-img create -q -f qcow2 -F raw -b nbd://127.0.0.1:1 -u b.qcow2 1M; ln -s ../secret/key near; "
            + "qemu-img create -q -f qcow2 -F raw -b near c.qcow2; qemu-img create -q -f qcow2 d.qcow2 1M; truncate -s 40 d.qcow2");
        for (String name : new String[]{"a", "b", "c", "d"}) {
            Path file = folder.resolve("lent/" + name + ".qcow2");
            Fault fault = assertThrows(FaultException.class, () -> VirtualDisk.open(file, "qcow2")).fault();
            assertEquals(name.equals("d") ? Fault.Kind.DAMAGED : Fault.Kind.FORBIDDEN, fault.kind(), fault.sentence());
        }
        assertTrue(Files.exists(secret.resolve("key")));
    }
}
