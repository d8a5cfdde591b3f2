package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Follows the chain of a file's clusters through a FAT of 12, 16 or 32 bits, or exFAT's. A chain longer than the volume runs in circles.
 */
final class ClusterChain {
    /** Multiple of 3, so that no FAT12 entry is cut, and of 4. */
    private static final int WINDOW = 96 * 1024;

    private final BlockSource source;
    private final long fatAt;
    private final long fatBytes;
    private final int bits;
    private final long mask;
    private final long clusters;
    private final ByteBuffer window = ByteBuffer.allocate(WINDOW).order(ByteOrder.LITTLE_ENDIAN);
    private long windowAt = -1;

    /** Takes one cluster of a chain; false ends the walk. */
    interface Visitor {
        boolean cluster(long number) throws IOException, Untrusted;
    }

    /**
     * @param fatAt first byte of the FAT on the source
     * @param mask  the bits of an entry that count: 28 of FAT32's, all of exFAT's
     */
    ClusterChain(BlockSource source, long fatAt, long fatBytes, int bits, long mask, long clusters) {
        this.source = source;
        this.fatAt = fatAt;
        this.fatBytes = fatBytes;
        this.bits = bits;
        this.mask = mask;
        this.clusters = clusters;
    }

    void walk(long first, Visitor visitor) throws IOException, Untrusted {
        long cluster = first;
        for (long steps = 0; cluster >= 2 && cluster <= clusters + 1; steps++) {
            Untrusted.unless(steps < clusters, "a chain of clusters in it runs in circles");
            if (!visitor.cluster(cluster)) {
                return;
            }
            cluster = entry(cluster);
        }
        Untrusted.unless(cluster >= (mask & ~0x7L), "a chain of clusters in it leads nowhere");
    }

    private long entry(long cluster) throws IOException {
        long at = cluster * bits / 8;
        if (windowAt < 0 || at < windowAt || at >= windowAt + window.limit()) {
            windowAt = at / WINDOW * WINDOW;
            window.clear().limit((int) Math.min(WINDOW, fatBytes - windowAt));
            source.read(fatAt + windowAt, window);
            window.flip();
        }
        return entry(window, (int) (at - windowAt), bits, mask, cluster);
    }

    /**
     * One entry of a FAT.
     *
     * @param window  a piece of the FAT, little-endian, that cuts no entry
     * @param at      where in it the entry begins
     * @param cluster the entry's number: of two entries of 12 bits that share a byte, the even one comes first
     */
    static long entry(ByteBuffer window, int at, int bits, long mask, long cluster) {
        if (bits == 32) {
            return window.getInt(at) & mask;
        }
        int pair = window.get(at) & 0xFF | (at + 1 < window.limit() ? window.get(at + 1) & 0xFF : 0) << 8;
        return bits == 16 ? pair : cluster % 2 == 0 ? pair & 0xFFF : pair >>> 4;
    }
}
