package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.Extents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Allocation of ext2, ext3 and ext4 from the block bitmaps of all groups. Every checksum the file system carries is compared, and every
 * group's bitmap with the free count in its descriptor: a map that disagrees with itself is not trusted.
 *
 * <p>Of the used blocks, those parts of inode tables that the descriptors declare never used ({@code bg_itable_unused}) are not read: they
 * are zero, or will be zeroed by the kernel before use (kernel documentation, "Inode Table", lazy initialisation).
 */
final class ExtReader {
    private static final int INODE_UNINIT = 0x1;
    private static final int BLOCK_UNINIT = 0x2;

    private final BlockSource source;
    private final long start;
    private final ExtSuperblock fs;
    private final byte[] bitmap;
    private final List<long[]> metadata = new ArrayList<>();
    private final List<long[]> vacant = new ArrayList<>();
    private final Extents.Builder free = new Extents.Builder();

    private ExtReader(BlockSource source, long start, ExtSuperblock fs) {
        this.source = source;
        this.start = start;
        this.fs = fs;
        this.bitmap = new byte[fs.blockBytes()];
    }

    static FileSystem read(BlockSource source, long start, long size, Bytes superblock) throws IOException {
        try {
            return new ExtReader(source, start, ExtSuperblock.read(superblock, size)).map(size);
        } catch (Untrusted reason) {
            return new FileSystem.Whole("ext4", reason.getMessage());
        }
    }

    private FileSystem map(long size) throws IOException, Untrusted {
        int perBlock = fs.blockBytes() / fs.descriptorBytes();
        List<long[]> uninitialised = new ArrayList<>();
        for (long index = 0; index < fs.descriptorBlocks(); index++) {
            long block = fs.descriptorBlock(index);
            Untrusted.unless(block < fs.blocks(), "its group descriptors run past its end");
            Bytes descriptors = Bytes.read(source, start + block * fs.blockBytes(), fs.blockBytes());
            for (int i = 0; i < perBlock && index * perBlock + i < fs.groups(); i++) {
                group(index * perBlock + i, descriptors, i * fs.descriptorBytes(), uninitialised);
            }
        }
        // groups without a bitmap on disk: all free but for the metadata that lies in them
        Extents known = sorted(metadata);
        Extents.Builder freeThere = new Extents.Builder();
        for (long[] group : uninitialised) {
            Extents clusters = known.complement(group[0], group[1]);
            Untrusted.unless(clusters.totalBytes() / fs.clusterBlocks() == group[2],
                "the group at block " + group[0] + " counts " + group[2] + " free, its layout " + clusters.totalBytes());
            for (int i = 0; i < clusters.count(); i++) {
                freeThere.add(clusters.start(i), clusters.end(i));
            }
        }
        Extents allFree = inBytes(free.build().union(freeThere.build()));
        Extents toRead = allFree.complement(0, size).minus(inBytes(sorted(vacant)));
        long freeBlocks = allFree.totalBytes() / fs.blockBytes();
        return new FileSystem.Mapped(fs.kind(), fs.blockBytes(), fs.blocks() - freeBlocks, freeBlocks, toRead,
            ExtLeftOut.find(source, start, fs));
    }

    private void group(long group, Bytes descriptors, int at, List<long[]> uninitialised) throws IOException, Untrusted {
        requireChecksum(group, descriptors, at);
        long blockBitmap = block(descriptors, at, 0x0, 0x20, 1, group);
        long inodeBitmap = block(descriptors, at, 0x4, 0x24, 1, group);
        long inodeTable = block(descriptors, at, 0x8, 0x28, fs.inodeTableBlocks(), group);
        int flags = descriptors.u16(at + 0x12);
        boolean lazy = fs.metadataChecksums() || fs.groupChecksums();
        long freeCount = descriptors.u16(at + 0x0C) | (fs.wide() ? (long) descriptors.u16(at + 0x2C) << 16 : 0);
        addMetadata(blockBitmap, 1);
        addMetadata(inodeBitmap, 1);
        addMetadata(inodeTable, fs.inodeTableBlocks());
        addMetadata(fs.groupStart(group), fs.leadingBlocks(group));
        if (lazy) {
            long unused = (flags & INODE_UNINIT) != 0 ? fs.inodesPerGroup()
                : descriptors.u16(at + 0x1C) | (fs.wide() ? (long) descriptors.u16(at + 0x32) << 16 : 0);
            Untrusted.unless(unused <= fs.inodesPerGroup(), "group " + group + " declares more unused inodes than it has");
            long usedBlocks = ((fs.inodesPerGroup() - unused) * fs.inodeBytes() + fs.blockBytes() - 1) / fs.blockBytes();
            vacant.add(new long[] {inodeTable + usedBlocks, inodeTable + fs.inodeTableBlocks()});
        }
        if (lazy && (flags & BLOCK_UNINIT) != 0) {
            uninitialised.add(new long[] {fs.groupStart(group), fs.groupStart(group) + fs.groupBlocks(group), freeCount});
        } else {
            readBitmap(group, blockBitmap, freeCount, descriptors, at);
        }
    }

    private void readBitmap(long group, long block, long freeCount, Bytes descriptors, int at) throws IOException, Untrusted {
        source.read(start + block * fs.blockBytes(), ByteBuffer.wrap(bitmap));
        if (fs.metadataChecksums()) {
            int computed = Crc32c.update(fs.checksumSeed(), bitmap, 0, (int) (fs.blocksPerGroup() / fs.clusterBlocks() / 8));
            int stored = descriptors.u16(at + 0x18) | (fs.wide() ? descriptors.u16(at + 0x38) << 16 : computed & 0xFFFF_0000);
            Untrusted.unless(computed == stored, "the checksum of the block bitmap of group " + group + " is wrong");
        }
        long first = fs.groupStart(group);
        int clusters = (int) ((fs.groupBlocks(group) + fs.clusterBlocks() - 1) / fs.clusterBlocks());
        long freeHere = 0;
        for (int i = 0; i < clusters; i++) {
            if ((bitmap[i >> 3] >> (i & 7) & 1) == 0) {
                int from = i;
                while (i < clusters && (bitmap[i >> 3] >> (i & 7) & 1) == 0) {
                    i++;
                }
                freeHere += i - from;
                free.add(first + (long) from * fs.clusterBlocks(), Math.min(first + (long) i * fs.clusterBlocks(), fs.blocks()));
            }
        }
        Untrusted.unless(freeHere == freeCount, "group " + group + " counts " + freeCount + " free blocks, its bitmap shows " + freeHere);
    }

    private void requireChecksum(long group, Bytes descriptors, int at) throws Untrusted {
        if (!fs.metadataChecksums() && !fs.groupChecksums()) {
            return;
        }
        byte[] raw = descriptors.slice(at, fs.descriptorBytes());
        byte[] number = {(byte) group, (byte) (group >> 8), (byte) (group >> 16), (byte) (group >> 24)};
        int computed;
        if (fs.metadataChecksums()) {
            raw[0x1E] = raw[0x1F] = 0;
            computed = Crc32c.update(Crc32c.update(fs.checksumSeed(), number), raw);
        } else {
            // the field itself is skipped, not zeroed (kernel documentation, "Block Group Descriptors")
            computed = Crc16.update(Crc16.update(Crc16.update(0xFFFF, fs.uuid(), 0, 16), number, 0, 4), raw, 0, 0x1E);
            computed = Crc16.update(computed, raw, 0x20, raw.length);
        }
        Untrusted.unless((computed & 0xFFFF) == descriptors.u16(at + 0x1E),
            "the checksum of the descriptor of group " + group + " is wrong");
    }

    /** A block number from a descriptor, refused unless it and the {@code count} blocks from it on lie within the file system. */
    private long block(Bytes descriptors, int at, int low, int high, long count, long group) throws Untrusted {
        long block = descriptors.u32(at + low) | (fs.wide() ? descriptors.u32(at + high) << 32 : 0);
        Untrusted.unless(block >= fs.firstDataBlock() && block <= fs.blocks() - count && block > 0,
            "group " + group + " places its maps at block " + Long.toUnsignedString(block) + ", past the file system's end");
        return block;
    }

    /** Notes blocks that are in use whatever a missing bitmap would say, widened to whole clusters. */
    private void addMetadata(long first, long count) {
        long cluster = fs.clusterBlocks();
        long end = Math.min(first + count, fs.blocks());
        metadata.add(new long[] {first / cluster * cluster, Math.min((end + cluster - 1) / cluster * cluster, fs.blocks())});
    }

    private static Extents sorted(List<long[]> ranges) {
        ranges.sort(Comparator.comparingLong(range -> range[0]));
        Extents.Builder out = new Extents.Builder();
        for (long[] range : ranges) {
            out.add(range[0], range[1]);
        }
        return out.build();
    }

    private Extents inBytes(Extents blocks) {
        Extents.Builder out = new Extents.Builder();
        for (int i = 0; i < blocks.count(); i++) {
            out.add(blocks.start(i) * fs.blockBytes(), blocks.end(i) * fs.blockBytes());
        }
        return out.build();
    }
}
