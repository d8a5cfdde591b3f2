package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Allocation of FAT12, FAT16 and FAT32 from the first FAT: an entry of 0 is a free cluster, all else counts as used, bad ones included (as
 * {@code fsck.fat -v} counts). Entry 1 carries the clean-shutdown and no-hard-error bits (FAT specification 1.03, "FAT[1]").
 */
final class FatReader {
    /** Multiple of 3, so that a window holds whole FAT12 entries, and of 4. */
    private static final int WINDOW = 3 * 256 * 1024;

    private FatReader() {
    }

    static FileSystem read(BlockSource source, long start, long size, Bytes boot) throws IOException {
        try {
            return map(source, start, size, FatGeometry.read(boot, size), boot);
        } catch (Untrusted reason) {
            return new FileSystem.Whole("vfat", reason.getMessage());
        }
    }

    private static FileSystem map(BlockSource source, long start, long size, FatGeometry fat, Bytes boot) throws IOException, Untrusted {
        int dirtyAt = fat.bits() == 32 ? 65 : 37;
        Untrusted.unless((boot.u8(dirtyAt) & 1) == 0, "it is marked as not cleanly closed");
        FreeRuns free = new FreeRuns(fat.dataStart(), fat.clusterBytes());
        long perWindow = WINDOW * 8L / fat.bits();
        ByteBuffer window = ByteBuffer.allocate(WINDOW).order(ByteOrder.LITTLE_ENDIAN);
        for (long first = 0; first < fat.clusters() + 2; first += perWindow) {
            long at = first * fat.bits() / 8;
            window.clear().limit((int) Math.min(WINDOW, fat.fatBytes() - at));
            source.read(start + fat.fatStart() + at, window);
            long end = Math.min(first + perWindow, fat.clusters() + 2);
            for (long cluster = first; cluster < end; cluster++) {
                long entry = ClusterChain.entry(window, (int) ((cluster - first) * fat.bits() / 8), fat.bits(), fat.entryMask(), cluster);
                if (cluster == 1) {
                    requireClean(entry, fat.bits());
                } else if (cluster >= 2 && entry == 0) {
                    free.add(cluster - 2, cluster - 1);
                }
            }
        }
        Extents toRead = free.build().complement(0, size);
        return new FileSystem.Mapped("vfat", fat.clusterBytes(), fat.clusters() - free.freeBlocks(), free.freeBlocks(), toRead,
            FatLeftOut.find(source, start, fat));
    }

    private static void requireClean(long entry, int bits) throws Untrusted {
        if (bits == 12) {
            return; // FAT12 has no such bits
        }
        int clean = bits == 32 ? 0x0800_0000 : 0x8000;
        int sound = bits == 32 ? 0x0400_0000 : 0x4000;
        Untrusted.unless((entry & clean) != 0, "it is marked as not cleanly closed");
        Untrusted.unless((entry & sound) != 0, "it is marked as having met read or write errors");
    }
}
