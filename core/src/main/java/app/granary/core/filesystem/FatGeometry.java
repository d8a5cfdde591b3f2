package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/**
 * The boot sector of FAT12, FAT16 and FAT32. FAT specification 1.03 (ECMA-107 for FAT12/16), "BPB structure": <pre> offset size field 11 2
 * BytsPerSec 13 1 SecPerClus 14 2 RsvdSecCnt 16 1 NumFATs 17 2 RootEntCnt (0 on FAT32) 19 2 TotSec16 21 1 Media 22 2 FATSz16 32 4 TotSec32
 * 36 4 FATSz32 (FAT32 only) 44 4 RootClus (FAT32 only) </pre>
 *
 * @param bits         12, 16 or 32, by the count of clusters alone, as the specification demands
 * @param fatStart     first byte of the first FAT, from the partition's start
 * @param fatBytes     length of one FAT
 * @param rootStart    first byte of the root directory of FAT12 and FAT16; 0 on FAT32
 * @param rootBytes    length of that directory; 0 on FAT32
 * @param rootCluster  first cluster of the root directory of FAT32; 0 on the others
 * @param dataStart    first byte of cluster 2
 * @param clusterBytes bytes per cluster
 * @param clusters     clusters in the data area; numbers run from 2 to clusters + 1
 */
record FatGeometry(int bits, long fatStart, long fatBytes, long rootStart, int rootBytes, long rootCluster, long dataStart,
    long clusterBytes,
    long clusters) {

    static boolean looksLikeFat(Bytes head) {
        if (head.length() < 512 || head.u16(510) != 0xAA55 || head.u8(0) != 0xEB && head.u8(0) != 0xE9) {
            return false;
        }
        int sector = head.u16(11);
        int perCluster = head.u8(13);
        return sector >= 512 && sector <= 4096 && Integer.bitCount(sector) == 1 && Integer.bitCount(perCluster) == 1
            && (head.u8(16) == 1 || head.u8(16) == 2) && head.u16(14) > 0 && (head.u8(21) == 0xF0 || head.u8(21) >= 0xF8);
    }

    /** @throws Untrusted when the numbers contradict each other or reach past the partition's end */
    static FatGeometry read(Bytes boot, long sizeBytes) throws Untrusted {
        long sector = boot.u16(11);
        long reserved = boot.u16(14);
        long fats = boot.u8(16);
        long rootSectors = (boot.u16(17) * 32L + sector - 1) / sector;
        long fatSectors = boot.u16(22) != 0 ? boot.u16(22) : boot.u32(36);
        long totalSectors = boot.u16(19) != 0 ? boot.u16(19) : boot.u32(32);
        long dataSector = reserved + fats * fatSectors + rootSectors;
        Untrusted.unless(fatSectors > 0 && dataSector < totalSectors, "its boot sector gives no room for data");
        Untrusted.unless(totalSectors <= sizeBytes / sector,
            "the file system says it is " + totalSectors * sector + " bytes long, its partition only " + sizeBytes);
        long clusters = (totalSectors - dataSector) / boot.u8(13);
        int bits = clusters < 4085 ? 12 : clusters < 65525 ? 16 : 32;
        Untrusted.unless((bits == 32) == (boot.u16(17) == 0), "its boot sector and its count of clusters disagree on the kind of FAT");
        Untrusted.unless((clusters + 2) * bits <= fatSectors * sector * 8,
            "its allocation table runs past its end: too short for " + clusters + " clusters");
        boolean wide = bits == 32;
        return new FatGeometry(bits, reserved * sector, fatSectors * sector, wide ? 0 : (reserved + fats * fatSectors) * sector,
            boot.u16(17) * 32,
            wide ? boot.u32(44) : 0, dataSector * sector, sector * boot.u8(13), clusters);
    }

    /** The bits of an entry that count: of FAT32's 32 the upper four are kept for others. */
    long entryMask() {
        return bits == 32 ? 0x0FFF_FFFFL : (1L << bits) - 1;
    }

    long clusterStart(long cluster) {
        return dataStart + (cluster - 2) * clusterBytes;
    }
}
