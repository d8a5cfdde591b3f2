package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;

import app.granary.core.disk.Extents;
import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** FAT specification 1.03: the kind follows from the count of clusters alone; below 4085 FAT12, below 65525 FAT16, else FAT32. */
class FatReaderTest {
    private static final int SECTOR = 512;

    /** A volume with one FAT, one sector per cluster, and so many clusters. */
    private static MemoryDisk volume(int clusters, int bits) {
        int fatSectors = ((clusters + 2) * bits / 8 + SECTOR) / SECTOR;
        int root = bits == 32 ? 0 : 16;
        int total = 1 + fatSectors + root / 16 + clusters;
        MemoryDisk disk = new MemoryDisk(total * SECTOR).u8(0, 0xEB).u8(2, 0x90).u16(11, SECTOR).u8(13, 1).u16(14, 1).u8(16, 1)
            .u16(17, root).u8(21, 0xF8).u16(510, 0xAA55);
        disk.u32(32, total);
        if (bits == 32) {
            disk.u32(36, fatSectors).u32(SECTOR, 0x0FFFFFF8).u32(SECTOR + 4, 0x0FFFFFFF);
        } else {
            disk.u16(22, fatSectors).u16(SECTOR, 0xFFF8).u16(SECTOR + 2, 0xFFFF);
        }
        return disk;
    }

    private static FileSystem.Mapped mapped(MemoryDisk disk) throws IOException {
        FileSystem found = FileSystems.probe(disk, 0, disk.sizeBytes());
        return assertInstanceOf(FileSystem.Mapped.class, found, () -> found.toString());
    }

    private static String reason(MemoryDisk disk) throws IOException {
        return assertInstanceOf(FileSystem.Whole.class, FileSystems.probe(disk, 0, disk.sizeBytes())).reason();
    }

    @ParameterizedTest
    @CsvSource({"4084, 12", "4085, 16", "65524, 16", "65525, 32"})
    void theKindChangesAtExactlyTheSpecifiedCounts(int clusters, int bits) throws IOException {
        FileSystem.Mapped found = mapped(volume(clusters, bits));
        assertEquals(clusters, found.usedBlocks() + found.freeBlocks());
        assertEquals(SECTOR, found.blockBytes());
    }

    @Test
    void aFat32BootSectorWithFewClustersContradictsItself() throws IOException {
        assertEquals("its boot sector and its count of clusters disagree on the kind of FAT", reason(volume(5000, 32)));
    }

    /** Three FAT12 entries share bytes: 12 bits each, low nibble first (specification 1.03, "FAT12"). */
    @Test
    void fat12EntriesAreTakenApart() throws IOException {
        MemoryDisk disk = volume(100, 12);
        int dataStart = (1 + 1 + 1) * SECTOR;
        disk.u8(SECTOR + 3, 0x03).u8(SECTOR + 4, 0x00); // entry 2 = 003, used; low nibble of entry 3 = 0
        disk.u8(SECTOR + 6, 0xFF).u8(SECTOR + 7, 0x0F); // entry 4 = FFF, used; entry 5 = 000
        disk.u8(SECTOR + 10, 0x70).u8(SECTOR + 11, 0xFF); // entry 7 = FF7, bad: not free
        FileSystem.Mapped found = mapped(disk);
        assertEquals(3, found.usedBlocks());
        Extents read = found.toRead();
        assertEquals(dataStart + SECTOR, read.bytesWithin(0, dataStart + SECTOR), "tables, root and cluster 2");
        assertEquals(0, read.bytesWithin(dataStart + SECTOR, dataStart + 2 * SECTOR), "cluster 3 is free");
        assertEquals(SECTOR, read.bytesWithin(dataStart + 2 * SECTOR, dataStart + 4 * SECTOR), "cluster 4 is used, 5 is free");
        assertEquals(SECTOR, read.bytesWithin(dataStart + 5 * SECTOR, dataStart + 6 * SECTOR), "a bad cluster is not free");
    }

    @Test
    void theUpperFourBitsOfAFat32EntryAreReserved() throws IOException {
        MemoryDisk disk = volume(65525, 32).u32(SECTOR + 4 * 10, 0xF0000000L).u32(SECTOR + 4 * 11, 0x10000001L);
        assertEquals(1, mapped(disk).usedBlocks());
    }

    @Test
    void markedTroubleIsBelieved() throws IOException {
        assertEquals("it is marked as not cleanly closed", reason(volume(5000, 16).u16(SECTOR + 2, 0x7FFF)));
        assertEquals("it is marked as having met read or write errors", reason(volume(5000, 16).u16(SECTOR + 2, 0xBFFF)));
        assertEquals("it is marked as not cleanly closed", reason(volume(65525, 32).u32(SECTOR + 4, 0x07FFFFFF)));
        assertEquals("it is marked as having met read or write errors", reason(volume(65525, 32).u32(SECTOR + 4, 0x0BFFFFFF)));
        assertEquals("it is marked as not cleanly closed", reason(volume(65525, 32).u8(65, 1)));
    }

    @Test
    void impossibleGeometriesAreNotBelieved() throws IOException {
        assertEquals("its boot sector gives no room for data", reason(volume(5000, 16).u32(32, 10)));
        assertEquals("its boot sector gives no room for data", reason(volume(5000, 16).u16(22, 0).u32(36, 0)));
        assertEquals("its allocation table runs past its end: too short for 5018 clusters", reason(volume(5000, 16).u16(22, 2)));
        MemoryDisk longer = volume(5000, 16);
        assertEquals("the file system says it is 5120000 bytes long, its partition only " + longer.sizeBytes(),
            reason(longer.u32(32, 10000)));
    }
}
