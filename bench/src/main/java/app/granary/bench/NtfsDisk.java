package app.granary.bench;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A sparse disk of 2 TB that is one NTFS made by mkntfs, half full: runs of random length are set in its cluster map, which ntfsinfo
 * places.
 */
final class NtfsDisk {
    private static final long BYTES = 2_000_398_934_016L;
    private static final int CLUSTER = 4096;
    /** Longest run of used or free clusters, 8 MB: about half a million free pieces on the disk. */
    private static final int LONGEST_RUN = 2000;

    private NtfsDisk() {
    }

    static void make(Path disk) throws IOException, InterruptedException {
        Path said = disk.resolveSibling("ntfsinfo.txt");
        Tool.shell("rm -f '" + disk + "'; truncate -s " + BYTES + " '" + disk + "'; mkntfs -q -Q -F -c " + CLUSTER + " '" + disk
            + "' > /dev/null 2>&1; ntfsinfo -f -i 6 -v '" + disk
            + "' > '" + said + "' 2>/dev/null");
        String data = Files.readString(said);
        Matcher run = Pattern.compile("\\n\\s+0x0\\s+0x([0-9a-f]+)\\s+0x([0-9a-f]+)")
            .matcher(data.substring(data.indexOf("attribute $DATA")));
        if (!run.find()) {
            throw new IOException("ntfsinfo does not say where the cluster map lies: see " + said);
        }
        long at = Long.parseLong(run.group(1), 16) * CLUSTER;
        byte[] map = new byte[(int) (Long.parseLong(run.group(2), 16) * CLUSTER)];
        try (FileChannel channel = FileChannel.open(disk, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            channel.read(ByteBuffer.wrap(map), at);
            fill(map, BYTES / CLUSTER);
            channel.write(ByteBuffer.wrap(map), at);
        }
        Files.delete(said);
    }

    private static void fill(byte[] map, long clusters) {
        Random random = new Random(1);
        boolean used = false;
        for (long bit = 0; bit < clusters - LONGEST_RUN; used = !used) {
            long end = bit + 1 + random.nextInt(LONGEST_RUN);
            for (; bit < end; bit++) {
                if (used) {
                    map[(int) (bit >> 3)] |= (byte) (1 << (bit & 7));
                }
            }
        }
    }
}
