package app.granary.engine.nbd;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.net.Socket;
import java.net.SocketException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** QEMU's own client is what reads (qemu-utils: qemu-img, qemu-io). */
class NbdServerTest {
    private static final int SIZE = 64 << 20;

    @TempDir
    Path folder;

    /** What a program of the system does with an image it reads as a disk. */
    private interface Reading {
        void at(NbdServer server) throws Exception;
    }

    private void served(boolean socket, Reading reading) throws Exception {
        Path disk = Medium.MBR_FAT16.make(folder);
        Path bag = folder.resolve("image");
        try (RawSource source = RawSource.open(disk)) {
            ImageWork.capture(source, new DiskIdentity("model", "serial", source.sizeBytes()), new Storage(Codec.ZSTD, 3,
                OptionalLong.empty(), SurveyChoice.ALL_BLOCKS), "image", folder, Clock.systemUTC(), Watch.NONE);
        }
        try (ImageSource image = ImageSource.forMany(Bag.open(bag));
            NbdServer server = socket ? NbdServer.onSocket(folder.resolve("nbd"), image, "image")
                : NbdServer.onLoopback(0, image, "image")) {
            Files.writeString(folder.resolve("uri"), server.uri());
            Files.copy(disk, folder.resolve("disk.raw"));
            reading.at(server);
        }
    }

    @Test
    void whatQemuCopiesIsTheDisk() throws Exception {
        served(true, server -> {
            Tools.run(folder, "qemu-img convert -f raw -O raw \"$(cat uri)\" out.raw && cmp out.raw disk.raw");
            Tools.run(folder, "! qemu-io -f raw -c 'write 0 512' \"$(cat uri)\" > said 2>&1; grep -qiE 'permission denied|read-only' said");
            String map = Tools.run(folder, "qemu-img map --output=json \"$(cat uri)\"");
            assertTrue(map.contains("\"zero\": true, \"data\": false"), "what is free is not read: " + map);
            assertThrows(FaultException.class, () -> NbdServer.onSocket(folder.resolve("nbd"), null, "other"));
            Tools.run(folder, "! qemu-img info \"nbd+unix:///another?socket=nbd\" 2>&1 | grep -q 'virtual size'");
        });
        assertTrue(Files.notExists(folder.resolve("nbd")), "the socket goes with the server");
    }

    @Test
    void atRandomByManyAtOnceOverLoopback() throws Exception {
        served(false, server -> {
            Tools.run(folder, "for i in 1 2 3 4; do (for at in $(shuf -i 0-16000 -n 12 --random-source=disk.raw); do "
                + "qemu-img dd -f raw -O raw bs=4096 skip=$at count=$((at + 1)) if=\"$(cat uri)\" of=piece.$i > /dev/null && "
                + "dd if=disk.raw bs=4096 skip=$at count=1 status=none | cmp - piece.$i || exit 1; done) & pids=\"$pids $!\"; done; "
                + "for p in $pids; do wait $p || exit 1; done");
        });
    }

    private static DataInputStream greeted(Socket line) throws IOException {
        line.setSoTimeout(20_000);
        DataInputStream in = new DataInputStream(line.getInputStream());
        assertEquals(Nbd.MAGIC, in.readLong());
        assertEquals(Nbd.OPTION, in.readLong());
        assertEquals(3, in.readShort());
        return in;
    }

    private static DataOutputStream asked(Socket line, int option, byte[] data) throws IOException {
        DataOutputStream out = new DataOutputStream(line.getOutputStream());
        out.writeLong(Nbd.OPTION);
        out.writeInt(option);
        out.writeInt(data.length);
        out.write(data);
        out.flush();
        return out;
    }

    private static void request(DataOutputStream out, int type, long offset, int length) throws IOException {
        out.writeInt(Nbd.REQUEST);
        out.writeShort(0);
        out.writeShort(type);
        out.writeLong(7);
        out.writeLong(offset);
        out.writeInt(length);
        out.flush();
    }

    /** By the oldest way of beginning, as small clients do; each answer without chunks. */
    @Test
    void whoAsksForWhatIsNotThereIsToldSo() throws Exception {
        served(false, server -> {
            int port = Integer.parseInt(server.uri().replaceAll(".*:(\\d+)/.*", "$1"));
            try (Socket line = new Socket("127.0.0.1", port)) {
                DataInputStream in = greeted(line);
                new DataOutputStream(line.getOutputStream()).writeInt(3);
                DataOutputStream out = asked(line, 99, new byte[5]);
                in.skipNBytes(12);
                assertEquals(Nbd.NOT_SUPPORTED, in.readInt());
                in.skipNBytes(4);
                asked(line, Nbd.EXPORT_NAME, new byte[0]);
                assertEquals(SIZE, in.readLong());
                assertEquals(Nbd.EXPORT_FLAGS, in.readShort());
                long[][] wrong = {{Nbd.READ, SIZE - 1, 2}, {Nbd.READ, -1, 512}, {Nbd.READ, 0, 0}, {Nbd.READ, 0, NbdSession.MOST + 1},
                    {Nbd.READ, Long.MAX_VALUE, 512}, {Nbd.BLOCK_STATUS, 0, 512}, {Nbd.READ, 0, -1}, {4, 0, 512}, {12, 0, 0}};
                for (long[] each : wrong) {
                    request(out, (int) each[0], each[1], (int) each[2]);
                    assertEquals(Nbd.SIMPLE_REPLY, in.readInt());
                    assertTrue(List.of(Nbd.BAD, Nbd.NOT_PERMITTED).contains(in.readInt()));
                    assertEquals(7, in.readLong());
                }
                request(out, Nbd.READ, 510, 2);
                in.skipNBytes(16);
                assertEquals(0x55aa, in.readUnsignedShort(), "a boot record's last two bytes");
                request(out, Nbd.END, 0, 0);
                assertEquals(-1, in.read());
            }
            for (byte[] rubbish : new byte[][] {"GET / HTTP/1.1\r\n\r\n".getBytes(), new byte[100], {0, 0, 0, 3, 1, 2, 3, 4, 5, 6, 7, 8}}) {
                try (Socket line = new Socket("127.0.0.1", port)) {
                    DataInputStream in = greeted(line);
                    line.getOutputStream().write(rubbish);
                    line.shutdownOutput();
                    assertEquals(-1, in.read());
                } catch (SocketException cutOff) {
                    // what it had not read is thrown away with the line
                }
            }
        });
    }

    @Test
    void aThousandReadersAtOnceAreTurnedAwayButTheFirst() throws Exception {
        served(false, server -> {
            int port = Integer.parseInt(server.uri().replaceAll(".*:(\\d+)/.*", "$1"));
            List<Socket> lines = new ArrayList<>();
            int turnedAway = 0;
            for (int i = 0; i < 1000; i++) {
                Socket line = new Socket("127.0.0.1", port);
                lines.add(line);
                try {
                    greeted(line);
                } catch (EOFException | SocketException closed) {
                    turnedAway++;
                }
            }
            assertEquals(1000 - 64, turnedAway);
            for (Socket each : lines) {
                each.close();
            }
            Tools.run(folder, "for i in $(seq 50); do qemu-img info \"$(cat uri)\" > said 2>&1 && exit 0; sleep 0.1; done; exit 1");
        });
    }
}
