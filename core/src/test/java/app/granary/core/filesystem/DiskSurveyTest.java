package app.granary.core.filesystem;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.Extents;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import java.io.IOException;
import org.junit.jupiter.api.Test;

class DiskSurveyTest {
    private static final int MIB = 1 << 20;

    /** A disk of 64 MiB with MBR partitions given as type, first MiB, MiB. */
    private static MemoryDisk disk(int... records) {
        MemoryDisk disk = new MemoryDisk(64 * MIB).u16(510, 0xAA55);
        for (int i = 0; i < records.length / 3; i++) {
            disk.u8(446 + 16 * i + 4, records[3 * i]).u32(446 + 16 * i + 8, records[3 * i + 1] * 2048L).u32(446 + 16 * i + 12,
                records[3 * i + 2] * 2048L);
        }
        return disk;
    }

    @Test
    void partitionsWithoutAKnownFileSystemAreReadWhole() throws IOException {
        DiskSurvey survey = DiskSurvey.of(disk(0x83, 1, 10), SurveyChoice.USED);
        assertTrue(survey.partitions().get(0).readWhole());
        assertEquals("no file system known to Granary was found in it", survey.partitions().get(0).reason());
        assertEquals(10L * MIB, survey.partitions().get(0).toRead().totalBytes());
    }

    @Test
    void smallGapsAreReadWholeAndLargeOnesAtTheirEnds() throws IOException {
        DiskSurvey survey = DiskSurvey.of(disk(0x83, 1, 10, 0x83, 20, 4), SurveyChoice.USED);
        Extents expected = Extents.range(0, 24L * MIB + MIB).union(Extents.range(63L * MIB, 64L * MIB));
        assertEquals(expected, survey.toRead(), "boot code, the 9 MiB between, then the ends of the 40 MiB behind");
        assertEquals(expected.totalBytes(), survey.usedBytes());
    }

    @Test
    void theLinkOfAnExtendedPartitionIsKept() throws IOException {
        MemoryDisk disk = disk(0x05, 30, 30).u16(30 * MIB + 510, 0xAA55);
        DiskSurvey survey = DiskSurvey.of(disk, SurveyChoice.USED);
        assertFalse(survey.partitions().get(0).readWhole(), "a container is no partition of its own");
        assertEquals(512, survey.toRead().bytesWithin(30L * MIB, 30L * MIB + 4096));
    }

    @Test
    void allBlocksMeansEveryByteEvenUnderADamagedTable() throws IOException {
        MemoryDisk broken = disk(0x83, 1, 999);
        FaultException refused = assertThrows(FaultException.class, () -> DiskSurvey.of(broken, SurveyChoice.USED));
        assertEquals(Fault.Kind.DAMAGED, refused.fault().kind());
        DiskSurvey survey = DiskSurvey.of(broken, SurveyChoice.ALL_BLOCKS);
        assertEquals(64L * MIB, survey.usedBytes());
        assertEquals("mbr", survey.table().scheme());
        assertTrue(survey.partitions().isEmpty());
    }

    @Test
    void aFileSystemOnTheWholeDiskIsPartitionZero() throws IOException {
        DiskSurvey survey = DiskSurvey.of(new MemoryDisk(4 * MIB).text(0, "XFSB"), SurveyChoice.USED);
        assertEquals("none", survey.table().scheme());
        assertEquals(0, survey.partitions().get(0).partition().number());
        assertEquals("the file system on the whole disk", survey.partitions().get(0).partition().label());
        assertEquals(4L * MIB, survey.usedBytes());
    }

    @Test
    void aBlankDiskIsADiskAndNoiseIsNot() throws IOException {
        assertTrue(DiskSurvey.of(new MemoryDisk(4 * MIB), SurveyChoice.USED).partitions().isEmpty());
        assertEquals(Fault.Kind.NOT_RECOGNISED,
            assertThrows(FaultException.class, () -> DiskSurvey.of(new MemoryDisk(4 * MIB).text(5000, "noise"), SurveyChoice.USED)).fault()
                .kind());
        assertThrows(FaultException.class, () -> DiskSurvey.of(new MemoryDisk(1000), SurveyChoice.ALL_BLOCKS));
    }
}
