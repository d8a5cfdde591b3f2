package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Property: a table turned into bytes and read back is the same table. That sfdisk accepts what is written is tested with the engine. */
class TableWriterTest {
    @ParameterizedTest
    @ValueSource(ints = {512, 4096})
    void aTableWrittenAndReadIsTheSame(int sector) throws IOException {
        Random random = new Random(7);
        for (int round = 0; round < 150; round++) {
            long bytes = (4096L + random.nextInt(2000)) * sector;
            PartitionTable table = sector == 512 && round % 2 == 0 ? SomeTables.mbr(random, bytes) : SomeTables.gpt(random, bytes, sector);
            byte[] boot = new byte[512];
            random.nextBytes(boot);
            byte[] disk = written(table, bytes, sector, boot);
            assertEquals(table, PartitionTables.read(new Memory(disk, sector)), () -> "round of " + table);
            assertArrayEquals(Arrays.copyOf(boot, 440), Arrays.copyOf(disk, 440), "boot code stays");
        }
    }

    private static byte[] written(PartitionTable table, long bytes, int sector, byte[] boot) throws IOException {
        byte[] disk = new byte[(int) bytes];
        for (TableSectors each : TableWriter.write(table, bytes, sector, boot)) {
            System.arraycopy(each.content(), 0, disk, (int) each.offsetBytes(), each.content().length);
        }
        return disk;
    }

    @Test
    void theBackupIsReadWhenThePrimaryIsNot() throws IOException {
        PartitionTable.Gpt table = SomeTables.gpt(new Random(1), 5000 * 512, 512);
        byte[] disk = written(table, 5000 * 512, 512, new byte[0]);
        byte[] damaged = disk.clone();
        damaged[512 + 60] ^= 1;
        PartitionTable read = PartitionTables.read(new Memory(damaged, 512));
        assertEquals(table.partitions(), read.partitions());
        assertTrue(read.remarks().get(0).startsWith("The primary GPT cannot be used (disk: the GPT header's checksum is wrong (byte 528"),
            read.remarks()::toString);
        byte[] wiped = disk.clone();
        Arrays.fill(wiped, 0, 34 * 512, (byte) 0);
        assertEquals(table.partitions(), PartitionTables.read(new Memory(wiped, 512)).partitions(), "the front was wiped, MBR and all");
        assertEquals(512, PartitionTables.sectorBytes(new Memory(wiped, 512)));
        wiped[1024 + 56] = 0x53;
        assertInstanceOf(PartitionTable.Absent.class, PartitionTables.read(new Memory(wiped, 512)),
            "something was made over the old table");
    }

    @Test
    void whatIsOddAboutATableIsRemarked() throws IOException {
        PartitionTable.Gpt table = SomeTables.gpt(new Random(2), 5000 * 512, 512);
        byte[] disk = written(table, 5000 * 512, 512, new byte[0]);
        assertRemark("The backup GPT lies in sector 4999, not in the last one, 5999", Arrays.copyOf(disk, 6000 * 512));
        byte[] noBackup = disk.clone();
        Arrays.fill(noBackup, 4999 * 512, 5000 * 512, (byte) 0);
        assertRemark("The backup GPT cannot be used: disk: a GPT is announced, but its header is not there", noBackup);
        byte[] hybrid = disk.clone();
        hybrid[446 + 16 + 4] = 0x07;
        hybrid[446 + 16 + 9] = 0x08;
        hybrid[446 + 16 + 13] = 0x01;
        assertRemark("The MBR is a hybrid: besides protecting the GPT it lists HPFS/NTFS/exFAT at sector 2048", hybrid);
    }

    private static void assertRemark(String begin, byte[] disk) throws IOException {
        PartitionTable read = PartitionTables.read(new Memory(disk, 512));
        assertTrue(read.remarks().stream().anyMatch(remark -> remark.startsWith(begin)), read.remarks()::toString);
    }

    @Test
    void whatCannotBeWrittenIsRefusedWithItsFigures() {
        Partition outside = new Partition(1, 1 << 20, 1 << 30, PartitionType.of("83"), "", "", 0, false);
        assertRefused("partition 1 takes sectors 2048 to 2099199 of a disk that has 4096", new PartitionTable.Mbr(1, List.of(outside)));
        Partition logical = new Partition(5, 1 << 20, 512, PartitionType.of("83"), "", "", 0, false);
        assertRefused("logical partitions and no extended one", new PartitionTable.Mbr(1, List.of(logical)));
        Partition named = new Partition(1, 1 << 20, 512, PartitionType.of("83"), "", "", 0, false);
        assertRefused("\"83\" is not a GUID",
            new PartitionTable.Gpt("5EED0000-0000-4000-8000-000000000000", 34, 4062, 128, List.of(named), List.of()));
        assertRefused("does not leave room for 4096 entries",
            new PartitionTable.Gpt("5EED0000-0000-4000-8000-000000000000", 34, 4062, 4096, List.of(), List.of()));
        assertRefused("there is no sound table", new PartitionTable.Absent());
    }

    private static void assertRefused(String because, PartitionTable table) {
        String said = assertThrows(FaultException.class, () -> TableWriter.write(table, 4096 * 512, 512, new byte[0])).getMessage();
        assertTrue(said.contains(because) && said.endsWith("Nothing was changed."), said);
    }
}
