package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FileSystemsTest {
    /**
     * Signatures as libblkid's and the formats' own documentation give them (from memory); NTFS, exFAT and swap are also met on real media.
     */
    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "3|'NTFS    '|ntfs|impossible sector size",
        "3|'EXFAT   '|exfat|impossible cluster size",
        "3|-FVE-FS-|encrypted|every block counts as used",
        "0|LUKS\u00BA\u00BE|luks|every block counts as used",
        "0|XFSB|xfs|not yet read block by block",
        "65600|_BHRfS_M|btrfs|not yet read block by block",
        "32|NXSB|apfs|not yet read block by block",
        "1024|H+|hfsplus|not yet read block by block",
        "1024|HX|hfsplus|not yet read block by block",
        "3|ReFS|refs|not yet read block by block",
        "512|LABELONE|lvm|belongs to a volume group",
        "1024|LABELONE|lvm|belongs to a volume group",
        "4086|S1SUSPEND|swap|holds a suspended system",
        "4096|\u00FC\u004E\u002B\u00A9|raid|member of a RAID set",
        "32769|CD001|iso9660|not yet read block by block",
        "0|something else|unknown|no file system known to Granary",
    })
    void whatIsOnlyRecognisedIsReadWholeWithItsReason(int at, String signature, String kind, String reason) throws IOException {
        MemoryDisk disk = new MemoryDisk(1 << 20).text(4096 * 10 + at, signature);
        FileSystem found = FileSystems.probe(disk, 4096 * 10, (1 << 20) - 4096 * 10);
        FileSystem.Whole whole = assertInstanceOf(FileSystem.Whole.class, found);
        assertEquals(kind, whole.kind());
        assertTrue(whole.reason().contains(reason), whole.reason());
        assertTrue(whole.freeBytes().isEmpty());
    }

    /** The header page of the machine that made it is kept: 4 KiB on most, 64 KiB on some. */
    @ParameterizedTest
    @ValueSource(ints = {4096, 65536})
    void swapKeepsItsHeaderPage(int page) throws IOException {
        FileSystem found = FileSystems.probe(new MemoryDisk(1 << 20).text(page - 10, "SWAPSPACE2"), 0, 1 << 20);
        assertEquals(List.of(new LeftOut("", LeftOut.What.SWAP, Extents.range(page, 1 << 20))), found.leftOut());
    }

    @Test
    void aPartitionShorterThanAnySignatureIsUnknown() throws IOException {
        assertEquals("unknown", FileSystems.probe(new MemoryDisk(1024), 0, 512).kind());
        assertEquals("unknown", FileSystems.probe(new MemoryDisk(1024), 1023, 1).kind());
    }
}
