package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import app.granary.core.disk.Bytes;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Kernel documentation, "ext4 Data Structures and Algorithms". The layouts are also met on real media made by mkfs in the engine's tests.
 */
class ExtSuperblockTest {
    private static final long PARTITION = 100L << 30;

    /** A sound superblock of 20 000 000 blocks of 4 KiB without checksums, to be changed. */
    private static ByteBuffer sound() {
        return ByteBuffer.allocate(1024).order(ByteOrder.LITTLE_ENDIAN).putInt(0x04, 20_000_000).putInt(0x18, 2).putInt(0x20, 32768)
            .putInt(0x28, 8192)
            .putShort(0x38, (short) 0xEF53).putShort(0x3A, (short) 1).putInt(0x4C, 1).putShort(0x58, (short) 256).putInt(0x60, 0x2)
            .putInt(0x64, 0x1)
            .putShort(0xCE, (short) 100);
    }

    private static ExtSuperblock read(ByteBuffer raw) throws Untrusted {
        return ExtSuperblock.read(Bytes.of(raw.array()), PARTITION);
    }

    private static String reason(ByteBuffer raw) {
        return assertThrows(Untrusted.class, () -> read(raw)).getMessage();
    }

    /** "Sparse superblock: copies are kept only in groups 0, 1 and powers of 3, 5 and 7." */
    @Test
    void copiesLieWhereTheDocumentationPutsThem() throws Untrusted {
        ExtSuperblock sparse = read(sound());
        assertEquals(List.of(0L, 1L, 3L, 5L, 7L, 9L, 25L, 27L, 49L, 81L, 125L, 243L, 343L),
            LongStream.range(0, 400).filter(sparse::hasSuperblock).boxed().toList());
        ExtSuperblock everywhere = read(sound().putInt(0x64, 0));
        assertEquals(50, LongStream.range(0, 50).filter(everywhere::hasSuperblock).count());
        ExtSuperblock two = read(sound().putInt(0x5C, 0x200).putInt(0x24C, 1).putInt(0x250, 610));
        assertEquals(List.of(0L, 1L, 610L), LongStream.range(0, 611).filter(two::hasSuperblock).boxed().toList());
    }

    @Test
    void groupsDescriptorsAndTheirCopiesAreCounted() throws Untrusted {
        ExtSuperblock fs = read(sound());
        assertEquals(611, fs.groups()); // 20 000 000 / 32 768 = 610.35
        assertEquals(20_000_000 - 610 * 32768L, fs.groupBlocks(610));
        assertEquals(5, fs.descriptorBlocks()); // 611 x 32 bytes
        assertEquals(1 + 5 + 100, fs.leadingBlocks(1));
        assertEquals(0, fs.leadingBlocks(2));
        assertEquals(512, fs.inodeTableBlocks());
        assertEquals("ext2", fs.kind());
        assertEquals("ext3", read(sound().putInt(0x5C, 0x4)).kind());
        assertEquals("ext4", read(sound().putInt(0x60, 0x42)).kind());
    }

    @Test
    void metaGroupsKeepTheirDescriptorsThemselves() throws Untrusted {
        ExtSuperblock fs = read(sound().putInt(0x60, 0x12).putInt(0x104, 0));
        assertEquals(1, fs.descriptorBlock(0));
        assertEquals(128 * 32768L, fs.descriptorBlock(1), "group 128 has no superblock, so its descriptors are its first block");
        assertEquals(2, fs.leadingBlocks(0));
        assertEquals(1, fs.leadingBlocks(128));
        assertEquals(1, fs.leadingBlocks(255));
        assertEquals(0, fs.leadingBlocks(130));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "60|4|8|it holds the journal of another file system",
        "60|4|40000002|it uses features Granary does not know (0x40000000)",
        "60|4|6|its journal has not been replayed: it was in use, or was not shut down",
        "3A|2|0|it is marked as not cleanly unmounted",
        "3A|2|3|it is marked as having errors",
        "18|4|7|its superblock gives an impossible block size",
        "14|4|5|its superblock gives an impossible first block",
        "04|4|0|its superblock gives no blocks",
        "04|4|7FFFFFFF|its block map runs past its partition: 2147483647 blocks of 4096 bytes in 107374182400 bytes",
        "20|4|8|its superblock gives an impossible group size (8 blocks)",
        "20|4|FFFFFFF8|its superblock gives an impossible group size (4294967288 blocks)",
        "58|2|12C|its superblock gives an impossible number or size of inodes",
        "28|4|0|its superblock gives an impossible number or size of inodes",
        "28|4|FFFFFFFF|its superblock gives an impossible number or size of inodes",
    })
    void whatContradictsItselfIsNotBelieved(String offset, int bytes, String value, String reason) {
        ByteBuffer raw = sound();
        int at = Integer.parseInt(offset, 16);
        long changed = Long.parseLong(value, 16);
        if (bytes == 2) {
            raw.putShort(at, (short) changed);
        } else {
            raw.putInt(at, (int) changed);
        }
        assertEquals(reason, reason(raw));
    }

    @Test
    void descriptorAndClusterSizesAreBounded() {
        assertEquals("its superblock gives an impossible descriptor size (0)",
            reason(sound().putInt(0x60, 0x80).putShort(0xFE, (short) 0)));
        assertEquals("its superblock gives an impossible descriptor size (48)",
            reason(sound().putInt(0x60, 0x80).putShort(0xFE, (short) 48)));
        assertEquals("its superblock gives an impossible cluster size", reason(sound().putInt(0x64, 0x201).putInt(0x1C, 1)));
        assertEquals("its superblock gives an impossible cluster size", reason(sound().putInt(0x64, 0x201).putInt(0x1C, 99)));
        assertEquals("the checksum of its superblock is wrong", reason(sound().putInt(0x64, 0x401)));
    }

    @Test
    void aHugeBlockCountDoesNotWrapAround() {
        ByteBuffer wide = sound().putInt(0x60, 0x82).putShort(0xFE, (short) 64);
        assertEquals("its superblock gives no blocks", reason(wide.putInt(0x150, -1)), "a count above 2^63 is no count");
        assertEquals("its block map runs past its partition: 9223372032579808512 blocks of 4096 bytes in 107374182400 bytes",
            reason(wide.putInt(0x150, 0x7FFFFFFF).putInt(0x04, 20_000_000)));
    }
}
