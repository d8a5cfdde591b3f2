package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/**
 * The main boot sector of exFAT, checked. exFAT file system specification 1.00, section 3.1: <pre> offset size field 3 8 FileSystemName
 * "EXFAT " 72 8 VolumeLength, sectors 80 4 FatOffset, sectors 84 4 FatLength, sectors 88 4 ClusterHeapOffset, sectors 92 4 ClusterCount 96
 * 4 FirstClusterOfRootDirectory 106 2 VolumeFlags: 0 active FAT, 1 dirty, 2 media failure 108 1 BytesPerSectorShift, 9 to 12 109 1
 * SectorsPerClusterShift, at most 25 - BytesPerSectorShift 110 1 NumberOfFats </pre>
 *
 * @param fatStart    first byte of the FAT, from the partition's start
 * @param heapStart   first byte of cluster 2
 * @param rootCluster first cluster of the root directory
 */
record ExfatGeometry(int sectorBytes, long fatStart, long heapStart, long clusterBytes, long clusters, long rootCluster) {
    private static final int DIRTY = 0x2;
    private static final int MEDIA_FAILURE = 0x4;

    static boolean looksLikeExfat(Bytes head) {
        return head.length() >= 512 && head.matches(3, "EXFAT   ");
    }

    static ExfatGeometry read(Bytes boot, long sizeBytes) throws Untrusted {
        int sectorShift = boot.u8(108);
        int clusterShift = boot.u8(109);
        Untrusted.unless(sectorShift >= 9 && sectorShift <= 12 && clusterShift <= 25 - sectorShift,
            "its boot sector gives an impossible cluster size");
        int sector = 1 << sectorShift;
        long cluster = (long) sector << clusterShift;
        long volume = boot.i64(72);
        Untrusted.unless(volume > 0 && volume <= sizeBytes / sector,
            "the file system says it has " + Long.toUnsignedString(volume) + " sectors of " + sector + " bytes, its partition only "
                + sizeBytes / sector);
        long fat = boot.u32(80);
        long fatLength = boot.u32(84);
        long heap = boot.u32(88);
        long clusters = boot.u32(92);
        Untrusted.unless(fat >= 24 && fat + fatLength <= heap && clusters > 0 && clusters <= (volume - heap) * sector / cluster,
            "its boot sector gives no room for its " + clusters + " clusters");
        Untrusted.unless((clusters + 2) * 4 <= fatLength * sector,
            "its allocation table runs past its end: too short for " + clusters + " clusters");
        long root = boot.u32(96);
        Untrusted.unless(root >= 2 && root <= clusters + 1, "its root directory lies outside the volume");
        Untrusted.unless(boot.u8(110) == 1, "it keeps two allocation tables, which Granary does not read yet");
        int flags = boot.u16(106);
        Untrusted.unless((flags & DIRTY) == 0, "it is marked as dirty: it was not ejected, or not shut down");
        Untrusted.unless((flags & MEDIA_FAILURE) == 0, "it is marked as having met read or write errors");
        return new ExfatGeometry(sector, fat * sector, heap * sector, cluster, clusters, root);
    }

    /**
     * Section 3.4: a sum over the first eleven sectors, without the flags and the percentage in use, fills the twelfth.
     *
     * @param region the first twelve sectors
     */
    static void requireChecksum(Bytes region, int sectorBytes) throws Untrusted {
        int sum = 0;
        for (int i = 0; i < 11 * sectorBytes; i++) {
            if (i != 106 && i != 107 && i != 112) {
                sum = Integer.rotateRight(sum, 1) + region.u8(i);
            }
        }
        Untrusted.unless((int) region.u32(11 * sectorBytes) == sum, "the checksum of its boot region is wrong");
    }

    long clusterStart(long cluster) {
        return heapStart + (cluster - 2) * clusterBytes;
    }
}
