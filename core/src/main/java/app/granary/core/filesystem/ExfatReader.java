package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;

/**
 * Allocation of exFAT from its allocation bitmap, one bit per cluster, found by the entry of type 0x81 in the root directory (exFAT file
 * system specification 1.00, sections 6.2 and 7.1: flags 1, first cluster 20, length 24).
 */
final class ExfatReader {
    private static final int ENTRY = 32;
    private static final int BITMAP_ENTRY = 0x81;
    private static final int WINDOW = 1 << 20;
    /** The bitmap's entry is among the first; a root directory is not searched further than this. */
    private static final int MOST_CLUSTERS = 64;

    private final BlockSource source;
    private final long start;
    private final ExfatGeometry geometry;
    private final ClusterChain chain;
    private long bitmapCluster;
    private long bitmapBytes;
    private long taken;

    private ExfatReader(BlockSource source, long start, ExfatGeometry geometry) {
        this.source = source;
        this.start = start;
        this.geometry = geometry;
        this.chain = new ClusterChain(source, start + geometry.fatStart(), (geometry.clusters() + 2) * 4, 32, 0xFFFF_FFFFL,
            geometry.clusters());
    }

    static FileSystem read(BlockSource source, long start, long size, Bytes boot) throws IOException {
        try {
            ExfatGeometry geometry = ExfatGeometry.read(boot, size);
            ExfatGeometry.requireChecksum(Bytes.read(source, start, 12 * geometry.sectorBytes()), geometry.sectorBytes());
            return new ExfatReader(source, start, geometry).map(size);
        } catch (Untrusted reason) {
            return new FileSystem.Whole("exfat", reason.getMessage());
        }
    }

    private FileSystem map(long size) throws IOException, Untrusted {
        findBitmap();
        long needed = (geometry.clusters() + 7) / 8;
        Untrusted.unless(bitmapCluster >= 2 && bitmapBytes >= needed, "its cluster map is missing or shorter than the volume");
        FreeRuns free = new FreeRuns(geometry.heapStart(), geometry.clusterBytes());
        chain.walk(bitmapCluster, cluster -> {
            byte[] window = new byte[(int) Math.min(WINDOW, geometry.clusterBytes())];
            for (long at = 0; at < geometry.clusterBytes() && taken < needed; at += window.length) {
                int length = (int) Math.min(window.length, needed - taken);
                source.read(start + geometry.clusterStart(cluster) + at, ByteBuffer.wrap(window, 0, length));
                free.bitmap(window, (int) Math.min(length * 8L, geometry.clusters() - taken * 8), taken * 8);
                taken += length;
            }
            return taken < needed;
        });
        Untrusted.unless(taken == needed, "its cluster map ends before the volume does");
        Extents toRead = free.build().complement(0, size);
        return new FileSystem.Mapped("exfat", geometry.clusterBytes(), geometry.clusters() - free.freeBlocks(), free.freeBlocks(), toRead,
            List.of());
    }

    private void findBitmap() throws IOException, Untrusted {
        int[] looked = {0};
        chain.walk(geometry.rootCluster(), cluster -> {
            Bytes directory = Bytes.read(source, start + geometry.clusterStart(cluster), (int) Math.min(WINDOW, geometry.clusterBytes()));
            for (int at = 0; at + ENTRY <= directory.length(); at += ENTRY) {
                if (directory.u8(at) == BITMAP_ENTRY && (directory.u8(at + 1) & 1) == 0) {
                    bitmapCluster = directory.u32(at + 20);
                    bitmapBytes = directory.i64(at + 24);
                    return false;
                }
                if (directory.u8(at) == 0) {
                    return false; // end of the directory
                }
            }
            return ++looked[0] < MOST_CLUSTERS;
        });
    }
}
