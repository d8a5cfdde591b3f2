package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import java.io.IOException;
import java.util.OptionalLong;

/**
 * What is known by its signature and not read block by block. Where the superblock tells used bytes they are told on. Offsets from each
 * format's published description (XFS: superblock fields 0, 4, 8, 144; Btrfs: superblock at 65 536, fields 112 and 120; HFS+: volume header
 * at 1024, fields 40, 44, 48), the member formats from memory; checked against blkid and the tools that made them.
 */
final class Recognised {
    private static final long RAID_MAGIC = 0xA92B4EFCL;

    private Recognised() {
    }

    /** @param head the first 128 KiB, or less of a shorter partition */
    static FileSystem of(BlockSource source, long start, long size, Bytes head) throws IOException {
        if (head.matches(3, "-FVE-FS-")) {
            return whole("encrypted", "the volume is encrypted, so every block counts as used");
        }
        if (head.length() >= 6 && head.matches(0, "LUKS") && head.u8(4) == 0xBA && head.u8(5) == 0xBE) {
            return whole("luks", "the volume is encrypted (LUKS), so every block counts as used");
        }
        if (isRaid(source, start, size, head)) {
            return whole("raid", "the partition is a member of a RAID set, whose volume is not read here");
        }
        for (int sector = 0; sector < 4; sector++) {
            if (head.matches(sector * 512, "LABELONE")) {
                return whole("lvm", "the partition belongs to a volume group, whose volumes are not yet read one by one");
            }
        }
        if (head.matches(0, "XFSB") && head.length() >= 512) {
            return unread("xfs", "XFS", used(head.i64be(8) - head.i64be(144), head.u32be(4), size));
        }
        if (head.matches(65536 + 64, "_BHRfS_M")) {
            return unread("btrfs", "Btrfs", used(head.i64(65536 + 120), 1, size));
        }
        if (head.matches(32, "NXSB")) {
            return unread("apfs", "APFS", OptionalLong.empty());
        }
        if ((head.matches(1024, "H+") || head.matches(1024, "HX")) && head.length() >= 1536) {
            return unread("hfsplus", "HFS+", used(head.u32be(1024 + 44) - head.u32be(1024 + 48), head.u32be(1024 + 40), size));
        }
        if (head.matches(3, "ReFS")) {
            return unread("refs", "ReFS", OptionalLong.empty());
        }
        if (head.matches(32769, "CD001")) {
            return unread("iso9660", "ISO 9660", OptionalLong.empty());
        }
        return whole(FileSystems.UNKNOWN, "no file system known to Granary was found in it");
    }

    /** Superblock 1.1 at the start, 1.2 at 4096, 1.0 between 8 and 12 KiB before the end, 0.90 at the last whole 64 KiB but one. */
    private static boolean isRaid(BlockSource source, long start, long size, Bytes head) throws IOException {
        if (head.length() >= 4100 && (head.u32(0) == RAID_MAGIC || head.u32(4096) == RAID_MAGIC)) {
            return true;
        }
        long sectors = size / 512;
        long[] atEnd = {(sectors - 16) / 8 * 8 * 512, (size / 65536 - 1) * 65536};
        for (long at : atEnd) {
            if (at > 0 && at + 4 <= size && Bytes.read(source, start + at, 4).u32(0) == RAID_MAGIC) {
                return true;
            }
        }
        return false;
    }

    /** What a superblock claims is only told on when it can be true. */
    private static OptionalLong used(long blocks, long blockBytes, long size) {
        boolean possible = blocks >= 0 && blockBytes > 0 && blocks <= size / blockBytes;
        return possible ? OptionalLong.of(blocks * blockBytes) : OptionalLong.empty();
    }

    private static FileSystem unread(String kind, String name, OptionalLong used) {
        return new FileSystem.Whole(kind, name + " is recognised and not yet read block by block", used);
    }

    private static FileSystem whole(String kind, String reason) {
        return new FileSystem.Whole(kind, reason);
    }
}
