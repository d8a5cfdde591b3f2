package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.util.List;
import org.junit.jupiter.api.Test;

/** The script format of sfdisk(8), "script headers"; that sfdisk reads it back is tested with the engine's media. */
class SfdiskDumpTest {
    private static Partition partition(int number, String type, String name, long attributes) {
        return new Partition(number, 1 << 20, 2 << 20, PartitionType.of(type), name, "5EED0000-0000-4000-8000-000000000001", attributes,
            false);
    }

    @Test
    void gptWithNameAndAttributes() {
        PartitionTable table = new PartitionTable.Gpt("5EED0000-0000-4000-8000-000000000000", 34, 8158, 128,
            List.of(partition(1, "C12A7328-F81F-11D2-BA4B-00A0C93EC93B", "a \"b\" \\ c", 1L | 1L << 2 | 1L << 63)), List.of());
        assertEquals("""
            label: gpt
            label-id: 5EED0000-0000-4000-8000-000000000000
            device: disk
            unit: sectors
            first-lba: 34
            last-lba: 8158
            sector-size: 512

            disk1 : start=2048, size=4096, type=c12a7328-f81f-11d2-ba4b-00a0c93ec93b, uuid=5EED0000-0000-4000-8000-000000000001, \
            name="a \\x22b\\x22 \\x5c c", \
            attrs="RequiredPartition LegacyBIOSBootable GUID:63"
            """, SfdiskDump.write(table, 512));
    }

    @Test
    void mbrWithABootablePartitionInLargeSectors() {
        PartitionTable table = new PartitionTable.Mbr(0x5EED, List.of(partition(1, "83", "", 0x80), partition(2, "0C", "", 0)));
        assertEquals("""
            label: dos
            label-id: 0x00005eed
            device: disk
            unit: sectors
            sector-size: 4096

            disk1 : start=256, size=512, type=83, bootable
            disk2 : start=256, size=512, type=0c
            """, SfdiskDump.write(table, 4096));
    }

    @Test
    void noTableNoText() {
        assertEquals("", SfdiskDump.write(new PartitionTable.Absent(), 512));
    }
}
