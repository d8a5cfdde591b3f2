package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/**
 * The superblock of ext2, ext3 and ext4, checked. Kernel documentation, "ext4 Data Structures and Algorithms", 3.1 "Super Block": <pre>
 * 0x00 inodes_count 0x04 blocks_count_lo 0x0C free_blocks_lo 0x14 first_data_block 0x18 log_block_size 0x1C log_cluster_size 0x20
 * blocks_per_group 0x24 clusters_per_group 0x28 inodes_per_group 0x38 magic 0x3A state 0x4C rev_level 0x58 inode_size 0x5C feature_compat
 * 0x60 feature_incompat 0x64 feature_ro_compat 0x68 uuid 0xCE reserved_gdt_blocks 0xFE desc_size 0x104 first_meta_bg 0x150 blocks_count_hi
 * 0x175 checksum_type 0x24C backup_bgs[2] 0x270 checksum_seed 0x3FC checksum </pre> Block numbers count file-system blocks from the
 * partition's start.
 */
record ExtSuperblock(long blocks, long firstDataBlock, int blockBytes, int clusterBlocks, long blocksPerGroup, long inodesPerGroup,
    int inodeBytes,
    int descriptorBytes, long reservedGdtBlocks, long firstMetaGroup, int compat, int incompat, int readOnlyCompat, byte[] uuid,
    int checksumSeed, long[] backupGroups) {
    private static final int INCOMPAT_FILETYPE = 0x2;
    private static final int INCOMPAT_RECOVER = 0x4;
    private static final int INCOMPAT_JOURNAL_DEVICE = 0x8;
    private static final int INCOMPAT_META_BG = 0x10;
    private static final int INCOMPAT_64BIT = 0x80;
    private static final int INCOMPAT_CSUM_SEED = 0x2000;
    /**
     * filetype, recover, meta_bg, extents, 64bit, mmp, flex_bg, ea_inode, dirdata, csum_seed, large_dir, inline_data, encrypt, casefold.
     */
    private static final int INCOMPAT_KNOWN = INCOMPAT_FILETYPE | 0x4 | 0x10 | 0x40 | 0x80 | 0x100 | 0x200 | 0x400 | 0x1000 | 0x2000
        | 0x4000 | 0x8000 | 0x10000 | 0x20000;
    private static final int COMPAT_SPARSE_SUPER2 = 0x200;
    private static final int RO_SPARSE_SUPER = 0x1;
    private static final int RO_GDT_CHECKSUM = 0x10;
    private static final int RO_BIGALLOC = 0x200;
    private static final int RO_METADATA_CHECKSUM = 0x400;
    private static final int STATE_CLEAN = 0x1;
    private static final int STATE_ERRORS = 0x2;

    private static final int AT = 1024;
    private static final int BYTES = 1024;

    static boolean looksLikeExt(Bytes head) {
        return head.length() >= AT + BYTES && head.u16(AT + 0x38) == 0xEF53;
    }

    /** Its bytes in the first of a partition that looks like ext. */
    static Bytes within(Bytes head) {
        return Bytes.of(head.slice(AT, BYTES));
    }

    static ExtSuperblock read(Bytes raw, long sizeBytes) throws Untrusted {
        int incompat = (int) raw.u32(0x60);
        int readOnly = (int) raw.u32(0x64);
        requireCleanAndKnown(raw, incompat, (readOnly & RO_METADATA_CHECKSUM) != 0);
        Untrusted.unless(raw.u32(0x18) <= 6, "its superblock gives an impossible block size");
        int blockBytes = 1024 << raw.u32(0x18);
        long blocks = raw.u32(0x04) | ((incompat & INCOMPAT_64BIT) != 0 ? raw.u32(0x150) << 32 : 0);
        long firstData = raw.u32(0x14);
        int clusterBlocks = 1;
        if ((readOnly & RO_BIGALLOC) != 0) {
            Untrusted.unless(raw.u32(0x1C) >= raw.u32(0x18) && raw.u32(0x1C) - raw.u32(0x18) <= 16,
                "its superblock gives an impossible cluster size");
            clusterBlocks = 1 << (raw.u32(0x1C) - raw.u32(0x18));
        }
        long perGroup = raw.u32(0x20);
        Untrusted.unless(firstData == (blockBytes == 1024 && clusterBlocks == 1 ? 1 : 0), "its superblock gives an impossible first block");
        Untrusted.unless(blocks > firstData, "its superblock gives no blocks");
        Untrusted.unless(blocks <= sizeBytes / blockBytes && blocks > 0,
            "its block map runs past its partition: " + Long.toUnsignedString(blocks) + " blocks of " + blockBytes + " bytes in "
                + sizeBytes + " bytes");
        Untrusted.unless(
            perGroup >= 256 && perGroup % 8 == 0 && perGroup / clusterBlocks <= 8L * blockBytes && perGroup % clusterBlocks == 0,
            "its superblock gives an impossible group size (" + perGroup + " blocks)");
        int inodeBytes = raw.u32(0x4C) == 0 ? 128 : raw.u16(0x58);
        long inodesPerGroup = raw.u32(0x28);
        Untrusted.unless(inodeBytes >= 128 && inodeBytes <= blockBytes && Integer.bitCount(inodeBytes) == 1 && inodesPerGroup > 0
            && inodesPerGroup <= 8L * blockBytes, "its superblock gives an impossible number or size of inodes");
        int descriptor = (incompat & INCOMPAT_64BIT) != 0 ? raw.u16(0xFE) : 32;
        Untrusted.unless(descriptor >= 32 && descriptor <= blockBytes && Integer.bitCount(descriptor) == 1,
            "its superblock gives an impossible descriptor size (" + descriptor + ")");
        byte[] uuid = raw.slice(0x68, 16);
        int seed = (incompat & INCOMPAT_CSUM_SEED) != 0 ? (int) raw.u32(0x270) : Crc32c.update(-1, uuid);
        return new ExtSuperblock(blocks, firstData, blockBytes, clusterBlocks, perGroup, inodesPerGroup, inodeBytes, descriptor,
            raw.u16(0xCE),
            (incompat & INCOMPAT_META_BG) != 0 ? raw.u32(0x104) : Long.MAX_VALUE, (int) raw.u32(0x5C), incompat, readOnly, uuid, seed,
            new long[] {raw.u32(0x24C), raw.u32(0x250)});
    }

    private static void requireCleanAndKnown(Bytes raw, int incompat, boolean checksummed) throws Untrusted {
        Untrusted.unless((incompat & INCOMPAT_JOURNAL_DEVICE) == 0, "it holds the journal of another file system");
        Untrusted.unless((incompat & ~INCOMPAT_KNOWN) == 0,
            String.format("it uses features Granary does not know (0x%x)", incompat & ~INCOMPAT_KNOWN));
        if (checksummed) {
            Untrusted.unless(Crc32c.update(-1, raw.slice(0, 0x3FC)) == (int) raw.u32(0x3FC), "the checksum of its superblock is wrong");
        }
        Untrusted.unless((incompat & INCOMPAT_RECOVER) == 0, "its journal has not been replayed: it was in use, or was not shut down");
        Untrusted.unless((raw.u16(0x3A) & STATE_CLEAN) != 0, "it is marked as not cleanly unmounted");
        Untrusted.unless((raw.u16(0x3A) & STATE_ERRORS) == 0, "it is marked as having errors");
    }

    boolean metadataChecksums() {
        return (readOnlyCompat & RO_METADATA_CHECKSUM) != 0;
    }

    boolean groupChecksums() {
        return (readOnlyCompat & RO_GDT_CHECKSUM) != 0;
    }

    /** Whether a folder tells of each name what it stands for. */
    boolean namesTellKinds() {
        return (incompat & INCOMPAT_FILETYPE) != 0;
    }

    boolean wide() {
        return (incompat & INCOMPAT_64BIT) != 0 && descriptorBytes >= 64;
    }

    /** Of what looks like one; of one that makes no sense the name of most. */
    static String kind(Bytes superblock, long sizeBytes) {
        try {
            return read(superblock, sizeBytes).kind();
        } catch (Untrusted nonsense) {
            return "ext4";
        }
    }

    /** {@code "ext2"}, {@code "ext3"} or {@code "ext4"}, by the features it needs (extents, flex_bg, 64bit; else a journal). */
    String kind() {
        return (incompat & (0x40 | 0x80 | 0x200)) != 0 || (readOnlyCompat & (RO_GDT_CHECKSUM | RO_METADATA_CHECKSUM | RO_BIGALLOC)) != 0
            ? "ext4"
            : (compat & 0x4) != 0 ? "ext3" : "ext2";
    }

    long groups() {
        return (blocks - firstDataBlock + blocksPerGroup - 1) / blocksPerGroup;
    }

    long groupStart(long group) {
        return firstDataBlock + group * blocksPerGroup;
    }

    long groupBlocks(long group) {
        return Math.min(blocksPerGroup, blocks - groupStart(group));
    }

    long descriptorBlocks() {
        long perBlock = blockBytes / descriptorBytes;
        return (groups() + perBlock - 1) / perBlock;
    }

    long inodeTableBlocks() {
        return (inodesPerGroup * inodeBytes + blockBytes - 1) / blockBytes;
    }

    /** Whether a group starts with a copy of the superblock: groups 0, 1 and powers of 3, 5 and 7 when the copies are sparse. */
    boolean hasSuperblock(long group) {
        if (group == 0) {
            return true;
        }
        if ((compat & COMPAT_SPARSE_SUPER2) != 0) {
            return group == backupGroups[0] || group == backupGroups[1];
        }
        return (readOnlyCompat & RO_SPARSE_SUPER) == 0 || group == 1 || isPower(group, 3) || isPower(group, 5) || isPower(group, 7);
    }

    private static boolean isPower(long value, long base) {
        long power = base;
        while (power < value) {
            power *= base;
        }
        return power == value;
    }

    /** Block that holds the descriptors numbered from {@code index * (blockBytes / descriptorBytes)} on. */
    long descriptorBlock(long index) {
        if (index < firstMetaGroup) {
            return firstDataBlock + 1 + index + (clusterBlocks > 1 && blockBytes == 1024 ? 1 : 0);
        }
        long group = index * (blockBytes / descriptorBytes);
        return groupStart(group) + (hasSuperblock(group) ? 1 : 0);
    }

    /** How many blocks at a group's start hold superblock and descriptor copies, reserved descriptor blocks included. */
    long leadingBlocks(long group) {
        long perBlock = blockBytes / descriptorBytes;
        long index = group / perBlock;
        long superblock = hasSuperblock(group) ? 1 : 0;
        if (index >= firstMetaGroup) {
            long within = group % perBlock;
            return superblock + (within == 0 || within == 1 || within == perBlock - 1 ? 1 : 0);
        }
        return superblock == 0 ? 0 : 1 + Math.min(descriptorBlocks(), firstMetaGroup) + reservedGdtBlocks;
    }
}
