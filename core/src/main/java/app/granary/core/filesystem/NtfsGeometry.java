package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/**
 * The boot sector of NTFS, checked. Layout as the Linux kernel documents it for its ntfs driver (from memory; checked against ntfsinfo):
 * <pre> offset size field 3 8 "NTFS " 11 2 bytes per sector 13 1 sectors per cluster; above 0x80, 2^(256 - value) 40 8 sectors in the
 * volume, without the copy of the boot sector behind it 48 8 first cluster of $MFT 64 1 clusters per MFT record; negative, 2^-value bytes
 * 68 1 clusters per index block; the same </pre>
 *
 * @param clusters    clusters in the volume
 * @param mftCluster  where $MFT begins
 * @param recordBytes length of an MFT record
 * @param indexBytes  length of an index block
 */
record NtfsGeometry(int clusterBytes, long clusters, long mftCluster, int recordBytes, int indexBytes) {
    private static final int MOST_CLUSTER = 2 << 20;
    private static final int MOST_RECORD = 64 << 10;

    static boolean looksLikeNtfs(Bytes head) {
        return head.length() >= 512 && head.matches(3, "NTFS    ");
    }

    /** @throws Untrusted when the numbers contradict each other or reach past the partition's end */
    static NtfsGeometry read(Bytes boot, long sizeBytes) throws Untrusted {
        int sector = boot.u16(11);
        Untrusted.unless(sector >= 256 && sector <= 4096 && Integer.bitCount(sector) == 1,
            "its boot sector gives an impossible sector size (" + sector + ")");
        int raw = boot.u8(13);
        Untrusted.unless(raw <= 0x80 || raw >= 256 - 12, "its boot sector gives an impossible cluster size");
        long perCluster = raw <= 0x80 ? raw : 1L << (256 - raw);
        long cluster = perCluster * sector;
        Untrusted.unless(Long.bitCount(cluster) == 1 && cluster >= 512 && cluster <= MOST_CLUSTER,
            "its boot sector gives an impossible cluster size");
        long sectors = boot.i64(40);
        Untrusted.unless(sectors > 0 && sectors <= sizeBytes / sector,
            "the file system says it has " + Long.toUnsignedString(sectors) + " sectors of " + sector + " bytes, its partition only "
                + sizeBytes / sector);
        long clusters = sectors / perCluster;
        long mft = boot.i64(48);
        Untrusted.unless(mft > 0 && mft < clusters, "its boot sector places the file table outside the volume");
        return new NtfsGeometry((int) cluster, clusters, mft, size(boot.u8(64), cluster), size(boot.u8(68), cluster));
    }

    private static int size(int raw, long cluster) throws Untrusted {
        long bytes = raw < 0x80 ? raw * cluster : 1L << Math.min(30, 256 - raw);
        Untrusted.unless(bytes >= 512 && bytes <= MOST_RECORD && Long.bitCount(bytes) == 1,
            "its boot sector gives an impossible record size");
        return (int) bytes;
    }
}
