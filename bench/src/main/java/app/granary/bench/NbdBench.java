package app.granary.bench;

import java.io.DataInputStream;
import java.io.IOException;
import java.net.UnixDomainSocketAddress;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SocketChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** An image read as a disk, in 256 MiB: whole by QEMU's client beside a restore, and at random. */
final class NbdBench {
    private static final int PIECE = 4096;
    private static final int READS = 400;
    private static final long EXPORT_NAME = 1;

    private final Measure measure;
    private final Random random = new Random(20);

    NbdBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("served.img");
        Path back = measure.folder.resolve("back.img");
        Path bag = measure.folder.resolve("bag");
        Path socket = measure.folder.resolve("nbd");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        measure.capture(disk);
        List<Double> whole = new ArrayList<>();
        List<Double> cold = new ArrayList<>();
        List<Double> warm = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            Tool.shell("rm -f '" + back + "' '" + socket + "'; sync");
            double restored = measure.granary("restore", "--no-compare", bag.toString(), back.toString());
            Tool.shell("rm -f '" + back + "'; sync");
            Process server = new ProcessBuilder(measure.granary(), "serve-image", "--socket", socket.toString(), bag.toString())
                .redirectOutput(ProcessBuilder.Redirect.DISCARD).redirectError(ProcessBuilder.Redirect.DISCARD).start();
            try {
                awaited(socket);
                try (Line line = new Line(socket)) {
                    double[] first = line.atRandom();
                    double[] again = line.around(disk.toFile().length() / 8);
                    double copied = Tool.shell("qemu-img convert -f raw -O raw 'nbd+unix:///bag?socket=" + socket + "' '" + back
                        + "' && sync '" + back + "'");
                    if (i > 0) {
                        whole.add(copied / restored);
                        cold.add(first[first.length * 95 / 100] / 40);
                        warm.add(again[again.length * 95 / 100]);
                    }
                }
            } finally {
                server.destroy();
                server.waitFor();
            }
        }
        // 0.6 times the speed
        measure.report("qemu-img convert of 3 GiB, half full, over NBD, time to a restore", whole, 1 / 0.6);
        measure.report("    4 KiB anywhere, p95, in units of 40 ms", cold, 1);
        measure.report("    4 KiB of what was read already, p95, in units of 1 ms", warm, 1);
        Tool.shell("rm -rf '" + bag + "' '" + back + "' '" + disk + "'");
    }

    private static void awaited(Path socket) throws InterruptedException {
        for (int look = 0; !Files.exists(socket) && look < 3_000; look++) {
            Thread.sleep(20);
        }
    }

    /** A reader of the simplest kind. */
    private final class Line implements AutoCloseable {
        private final SocketChannel channel;
        private final DataInputStream in;
        private final long size;

        Line(Path socket) throws IOException {
            channel = SocketChannel.open(UnixDomainSocketAddress.of(socket));
            in = new DataInputStream(Channels.newInputStream(channel));
            in.skipNBytes(18);
            send(ByteBuffer.allocate(20).putInt(3).putLong(0x49484156454f5054L).putInt((int) EXPORT_NAME).putInt(0).flip());
            size = in.readLong();
            in.readShort();
        }

        private void send(ByteBuffer what) throws IOException {
            while (what.hasRemaining()) {
                channel.write(what);
            }
        }

        private double millis(long at) throws IOException {
            long began = System.nanoTime();
            send(ByteBuffer.allocate(28).putInt(0x25609513).putInt(0).putLong(1).putLong(at).putInt(PIECE).flip());
            in.readInt();
            if (in.readInt() != 0) {
                throw new IOException("nothing was read at " + at);
            }
            in.skipNBytes(8 + PIECE);
            return (System.nanoTime() - began) / 1e6;
        }

        double[] atRandom() throws IOException {
            double[] out = new double[READS];
            for (int i = 0; i < READS; i++) {
                out[i] = millis((long) (random.nextDouble() * (size / PIECE - 1)) * PIECE);
            }
            java.util.Arrays.sort(out);
            return out;
        }

        /** Within 16 MiB, all of which was read once before. */
        double[] around(long at) throws IOException {
            for (int i = 0; i < 16; i++) {
                millis(at + ((long) i << 20));
            }
            double[] out = new double[READS];
            for (int i = 0; i < READS; i++) {
                out[i] = millis(at + random.nextInt((16 << 20) / PIECE) * (long) PIECE);
            }
            java.util.Arrays.sort(out);
            return out;
        }

        @Override
        public void close() throws IOException {
            channel.close();
        }
    }
}
