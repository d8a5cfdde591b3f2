package app.granary.engine.media;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * Puts files onto a fresh exFAT, since no tool of the system does so without mounting: entry sets of the root directory (exFAT file system
 * specification 1.00, sections 7.4, 7.6, 7.7) with contiguous clusters, and their bits in the allocation bitmap. fsck.exfat judges the
 * result.
 */
final class ExfatFiles {
    private static final int BYTES = 300_000;

    private ExfatFiles() {
    }

    /** What the file of a number holds. */
    static byte[] content(int number) {
        byte[] out = new byte[BYTES];
        new java.util.Random(number).nextBytes(out);
        return out;
    }

    static void add(Path folder, Path disk, String place) {
        long start = Long.parseLong(Tools.run(folder, place + "echo $start").strip());
        try (FileChannel channel = FileChannel.open(disk, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            ByteBuffer boot = read(channel, start, 512);
            int sector = 1 << boot.get(108);
            long cluster = (long) sector << boot.get(109);
            long heap = start + (boot.getInt(88) & 0xFFFF_FFFFL) * sector;
            long root = heap + (boot.getInt(96) - 2L) * cluster;
            ByteBuffer directory = read(channel, root, (int) Math.min(cluster, 4096));
            int at = 0;
            long bitmap = 0;
            for (; directory.get(at) != 0; at += 32) {
                bitmap = (directory.get(at) & 0xFF) == 0x81 ? heap + (directory.getInt(at + 20) - 2L) * cluster : bitmap;
            }
            int clusters = (int) ((BYTES + cluster - 1) / cluster);
            // a hole of one file's length between the two
            for (int number = 1; number <= 2; number++) {
                long first = boot.getInt(96) + 1000L % ((boot.getInt(92) & 0xFFFF_FFFFL) / 4) + 2L * number * clusters;
                entries(directory, at, number, first);
                at += 96;
                channel.write(ByteBuffer.wrap(content(number)), heap + (first - 2) * cluster);
                for (long bit = first - 2; bit < first - 2 + clusters; bit++) {
                    ByteBuffer one = read(channel, bitmap + bit / 8, 1);
                    one.put(0, (byte) (one.get(0) | 1 << bit % 8));
                    channel.write(one.rewind(), bitmap + bit / 8);
                }
            }
            channel.write(directory.rewind(), root);
        } catch (IOException failed) {
            throw new AssertionError(failed);
        }
    }

    private static void entries(ByteBuffer into, int at, int number, long firstCluster) {
        into.put(at, (byte) 0x85).put(at + 1, (byte) 2).putShort(at + 4, (short) 0x20);
        into.put(at + 32, (byte) 0xC0).put(at + 33, (byte) 0x03).put(at + 35, (byte) 5);
        String name = "FILE" + number;
        into.putShort(at + 36, (short) nameHash(name)).putLong(at + 40, BYTES).putInt(at + 52, (int) firstCluster).putLong(at + 56, BYTES);
        into.put(at + 64, (byte) 0xC1).put(at + 66, name.getBytes(StandardCharsets.UTF_16LE));
        // time stamps: 1 January 2026; a stamp of zero is no date
        int stamp = (46 << 25) | (1 << 21) | (1 << 16);
        into.putInt(at + 8, stamp).putInt(at + 12, stamp).putInt(at + 16, stamp);
        int sum = 0;
        for (int i = 0; i < 96; i++) {
            if (i != 2 && i != 3) {
                sum = ((sum << 15 | sum >>> 1) & 0xFFFF) + (into.get(at + i) & 0xFF) & 0xFFFF;
            }
        }
        into.putShort(at + 2, (short) sum);
    }

    private static int nameHash(String upper) {
        int hash = 0;
        for (byte b : upper.getBytes(StandardCharsets.UTF_16LE)) {
            hash = ((hash << 15 | hash >>> 1) & 0xFFFF) + (b & 0xFF) & 0xFFFF;
        }
        return hash;
    }

    private static ByteBuffer read(FileChannel channel, long at, int length) throws IOException {
        ByteBuffer out = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
        channel.read(out, at);
        return out.rewind();
    }
}
