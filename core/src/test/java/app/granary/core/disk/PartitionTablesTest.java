package app.granary.core.disk;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.function.Consumer;
import java.util.zip.CRC32;
import org.junit.jupiter.api.Test;

/**
 * Tables built byte by byte from UEFI Specification 2.10, tables 5-1 to 5-6. That real tools' tables are read alike is tested with the
 * engine.
 */
class PartitionTablesTest {
    private static final int SECTOR = 512;
    private static final int SECTORS = 2048;

    private static byte[] mbr(int[]... records) {
        ByteBuffer disk = ByteBuffer.allocate(SECTORS * SECTOR).order(ByteOrder.LITTLE_ENDIAN);
        disk.putInt(440, 0x12345678);
        for (int i = 0; i < records.length; i++) {
            disk.put(446 + 16 * i + 4, (byte) records[i][0]).putInt(446 + 16 * i + 8, records[i][1]).putInt(446 + 16 * i + 12,
                records[i][2]);
        }
        return disk.putShort(510, (short) 0xAA55).array();
    }

    private static byte[] gpt(Consumer<ByteBuffer> change, long[]... ranges) {
        ByteBuffer disk = ByteBuffer.wrap(mbr(new int[] {0xEE, 1, SECTORS - 1})).order(ByteOrder.LITTLE_ENDIAN);
        for (int i = 0; i < ranges.length; i++) {
            int at = 2 * SECTOR + 128 * i;
            disk.putInt(at, 0x0FC63DAF).putShort(at + 4, (short) 0x8483).putShort(at + 6, (short) 0x4772);
            disk.put(at + 8, new byte[] {(byte) 0x8E, 0x79, 0x3D, 0x69, (byte) 0xD8, 0x47, 0x7D, (byte) 0xE4});
            disk.putLong(at + 32, ranges[i][0]).putLong(at + 40, ranges[i][1]);
            disk.put(at + 56, ("part " + i).getBytes(StandardCharsets.UTF_16LE));
        }
        disk.put(SECTOR, "EFI PART".getBytes(StandardCharsets.US_ASCII)).putInt(SECTOR + 8, 0x10000).putInt(SECTOR + 12, 92);
        disk.putLong(SECTOR + 24, 1).putLong(SECTOR + 32, SECTORS - 1).putLong(SECTOR + 40, 34).putLong(SECTOR + 48, SECTORS - 34);
        disk.putLong(SECTOR + 72, 2).putInt(SECTOR + 80, 128).putInt(SECTOR + 84, 128);
        disk.putInt(SECTOR + 88, crc(disk.array(), 2 * SECTOR, 128 * 128));
        change.accept(disk);
        disk.putInt(SECTOR + 16, 0);
        disk.putInt(SECTOR + 16, crc(disk.array(), SECTOR, 92));
        return disk.array();
    }

    private static int crc(byte[] content, int from, int length) {
        CRC32 crc = new CRC32();
        crc.update(content, from, length);
        return (int) crc.getValue();
    }

    private static PartitionTable read(byte[] disk) throws IOException {
        return PartitionTables.read(new Memory(disk, SECTOR));
    }

    private static void assertDamaged(String because, long offset, byte[] disk) throws IOException {
        PartitionTable.Damaged damaged = assertInstanceOf(PartitionTable.Damaged.class, read(disk));
        assertTrue(damaged.fault().sentence().contains(because), damaged.fault().sentence());
        assertTrue(damaged.fault().sentence().endsWith("Repair the table with a partition editor, or capture every block."));
        assertEquals(offset, damaged.fault().offsetBytes().orElseThrow());
        assertEquals(Fault.Kind.DAMAGED, damaged.fault().kind());
    }

    @Test
    void gptEntriesAreReadWithInclusiveEndsTurnedExclusive() throws IOException {
        PartitionTable.Gpt table = assertInstanceOf(PartitionTable.Gpt.class,
            read(gpt(d -> {}, new long[] {40, 99}, new long[] {100, 2014})));
        assertEquals(2, table.partitions().size());
        Partition first = table.partitions().get(0);
        assertEquals(40 * SECTOR, first.startBytes());
        assertEquals(60 * SECTOR, first.sizeBytes());
        assertEquals("part 0", first.name());
        assertEquals("0FC63DAF-8483-4772-8E79-3D69D8477DE4", first.type().code());
        assertEquals("partition 2 (\"part 1\")", table.partitions().get(1).label());
    }

    @Test
    void everyDamageToAGptIsNamedWithItsPlace() throws IOException {
        byte[] sum = gpt(d -> {}, new long[] {40, 99});
        sum[SECTOR + 40] ^= 1;
        assertDamaged("the GPT header's checksum is wrong", SECTOR + 16, sum);
        byte[] entries = gpt(d -> {}, new long[] {40, 99});
        entries[2 * SECTOR + 60] ^= 1;
        assertDamaged("the checksum of the GPT entries is wrong", SECTOR + 88, entries);
        byte[] gone = gpt(d -> {});
        Arrays.fill(gone, SECTOR, SECTOR + 8, (byte) 0);
        assertDamaged("its header is not there", SECTOR, gone);
        assertDamaged("impossible number of entries", SECTOR + 80, gpt(d -> d.putInt(SECTOR + 80, -1)));
        assertDamaged("impossible entry length", SECTOR + 84, gpt(d -> d.putInt(SECTOR + 84, 0x4000_0000)));
        assertDamaged("past the end of the disk", SECTOR + 72, gpt(d -> d.putLong(SECTOR + 72, Long.MAX_VALUE)));
        assertDamaged("the file is cut short", SECTOR + 48, gpt(d -> d.putLong(SECTOR + 48, 4_000_000)));
        assertDamaged("entry 1 lies outside the usable sectors", 2 * SECTOR + 32, gpt(d -> {}, new long[] {20, 99}));
        assertDamaged("partitions 1 and 2 overlap from byte " + 90 * SECTOR, 90 * SECTOR,
            gpt(d -> {}, new long[] {40, 99}, new long[] {90, 200}));
    }

    @Test
    void mbrRecordsAndTheirDamage() throws IOException {
        PartitionTable.Mbr table = assertInstanceOf(PartitionTable.Mbr.class,
            read(mbr(new int[] {0x83, 64, 100}, new int[] {0, 0, 0}, new int[] {0x0C, 200, 300})));
        assertEquals(0x12345678L, table.diskSignature());
        assertEquals(3, table.partitions().get(1).number());
        assertEquals("W95 FAT32 (LBA)", table.partitions().get(1).type().name());
        assertDamaged("MBR partition 1 lies outside this disk", 454, mbr(new int[] {0x83, 64, 1 << 20}));
        assertDamaged("partitions 1 and 2 overlap", 150 * SECTOR, mbr(new int[] {0x83, 64, 100}, new int[] {0x83, 150, 100}));
        assertDamaged("leads to a sector that is no link", 100 * SECTOR + 510, mbr(new int[] {0x05, 100, 1000}));
    }

    @Test
    void aChainOfLogicalPartitionsThatLoopsEnds() throws IOException {
        byte[] disk = mbr(new int[] {0x0F, 100, 1000});
        ByteBuffer link = ByteBuffer.wrap(disk).order(ByteOrder.LITTLE_ENDIAN);
        for (int at : new int[] {100, 300}) {
            link.put(at * SECTOR + 446 + 4, (byte) 0x83).putInt(at * SECTOR + 446 + 8, 10).putInt(at * SECTOR + 446 + 12, 50);
            link.put(at * SECTOR + 462 + 4, (byte) 0x05).putInt(at * SECTOR + 462 + 8, at == 100 ? 200 : 200).putShort(at * SECTOR + 510,
                (short) 0xAA55);
        }
        assertDamaged("the chain of logical partitions does not end", 300 * SECTOR, disk);
    }

    @Test
    void noTableIsAbsent() throws IOException {
        assertInstanceOf(PartitionTable.Absent.class, read(new byte[SECTOR * 8]));
        assertInstanceOf(PartitionTable.Absent.class, read(new byte[100]));
    }
}
