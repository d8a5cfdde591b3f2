package app.granary.core.disk;

import app.granary.core.fault.FaultException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Writes both copies of a GPT and the MBR that protects it (UEFI Specification 2.10, sections 5.2.3 and 5.3.2; layouts at
 * {@link GptHeader}).
 */
final class GptWriter {
    private static final long MBR_MOST = 0xFFFF_FFFFL;

    private final PartitionTable.Gpt table;
    private final long sectors;
    private final int sector;
    private final byte[] firstSector;
    private final int entrySectors;

    GptWriter(PartitionTable.Gpt table, long diskBytes, int sectorBytes, byte[] firstSector) {
        this.table = table;
        this.sectors = diskBytes / sectorBytes;
        this.sector = sectorBytes;
        this.firstSector = firstSector;
        this.entrySectors = (table.entryCount() * GptHeader.ENTRY_BYTES + sectorBytes - 1) / sectorBytes;
    }

    List<TableSectors> write() throws FaultException {
        long lastLba = sectors - 1;
        long backupEntries = lastLba - entrySectors;
        // the usable range follows the disk it is written to, and never ends before the partitions it holds
        long lastUsable = backupEntries - 1;
        require(table.firstUsableLba() >= 2L + entrySectors && table.firstUsableLba() <= lastUsable + 1,
            "its first usable sector, " + table.firstUsableLba()
                + ", does not leave room for " + table.entryCount() + " entries on a disk of " + sectors + " sectors");
        byte[] entries = entries(lastUsable);
        long entriesCrc = GptHeader.crc(Arrays.copyOf(entries, table.entryCount() * GptHeader.ENTRY_BYTES));
        byte[] front = new byte[(2 + entrySectors) * sector];
        System.arraycopy(protective(), 0, front, 0, 512);
        System.arraycopy(header(1, lastLba, 2, lastUsable, entriesCrc), 0, front, sector, sector);
        System.arraycopy(entries, 0, front, 2 * sector, entries.length);
        byte[] back = new byte[(entrySectors + 1) * sector];
        System.arraycopy(entries, 0, back, 0, entries.length);
        System.arraycopy(header(lastLba, 1, backupEntries, lastUsable, entriesCrc), 0, back, entrySectors * sector, sector);
        return List.of(new TableSectors(0, front), new TableSectors(backupEntries * sector, back));
    }

    private byte[] entries(long lastUsable) throws FaultException {
        ByteBuffer out = TableSectors.buffer(entrySectors * sector);
        for (Partition partition : table.partitions()) {
            require(partition.number() >= 1 && partition.number() <= table.entryCount(),
                "it has " + table.entryCount() + " entries and a partition number " + partition.number());
            require(partition.startBytes() % sector == 0 && partition.sizeBytes() % sector == 0,
                partition.label() + " is not a whole number of sectors of " + sector + " bytes");
            long first = partition.startBytes() / sector;
            long last = partition.endBytes() / sector - 1;
            require(first >= table.firstUsableLba() && last <= lastUsable,
                partition.label() + " takes sectors " + first + " to " + last + ", and sectors "
                    + table.firstUsableLba() + " to " + lastUsable + " can be used");
            int at = (partition.number() - 1) * GptHeader.ENTRY_BYTES;
            guid(out, at, partition.type().code());
            guid(out, at + 16, partition.uuid());
            out.putLong(at + 32, first).putLong(at + 40, last).putLong(at + 48, partition.attributes());
            byte[] name = partition.name().getBytes(StandardCharsets.UTF_16LE);
            require(name.length <= GptHeader.NAME_BYTES, "the name of " + partition.label() + " is longer than 36 characters");
            out.put(at + 56, name);
        }
        return out.array();
    }

    private byte[] header(long own, long other, long entriesLba, long lastUsable, long entriesCrc) throws FaultException {
        ByteBuffer out = TableSectors.buffer(sector);
        out.put(0, GptHeader.SIGNATURE.getBytes(StandardCharsets.US_ASCII)).putInt(8, GptHeader.REVISION_1_0).putInt(12,
            GptHeader.HEADER_BYTES);
        out.putLong(24, own).putLong(32, other).putLong(40, table.firstUsableLba()).putLong(48, lastUsable);
        guid(out, 56, table.diskGuid());
        out.putLong(72, entriesLba).putInt(80, table.entryCount()).putInt(84, GptHeader.ENTRY_BYTES).putInt(88, (int) entriesCrc);
        out.putInt(16, (int) GptHeader.crc(Arrays.copyOf(out.array(), GptHeader.HEADER_BYTES)));
        return out.array();
    }

    /** Section 5.2.3: one record of type EE from sector 1 over the whole disk, or as much of it as 32 bits can say. */
    private byte[] protective() {
        ByteBuffer out = TableSectors.buffer(512);
        out.put(0, firstSector, 0, firstSector.length < TableWriter.BOOT_CODE_BYTES ? 0 : TableWriter.BOOT_CODE_BYTES);
        out.put(MbrRecord.FIRST + 2, (byte) 0x02).put(MbrRecord.FIRST + 4, (byte) MbrRecord.PROTECTIVE);
        out.put(MbrRecord.FIRST + 5, (byte) 0xFF).put(MbrRecord.FIRST + 6, (byte) 0xFF).put(MbrRecord.FIRST + 7, (byte) 0xFF);
        out.putInt(MbrRecord.FIRST + 8, 1).putInt(MbrRecord.FIRST + 12, (int) Math.min(MBR_MOST, sectors - 1));
        return out.putShort(510, (short) 0xAA55).array();
    }

    /** First three fields little-endian, the rest as written (UEFI 2.x, appendix A). */
    private static void guid(ByteBuffer out, int at, String guid) throws FaultException {
        require(guid.matches("[0-9A-Fa-f]{8}(-[0-9A-Fa-f]{4}){3}-[0-9A-Fa-f]{12}"), "\"" + guid + "\" is not a GUID");
        String[] fields = guid.toUpperCase(Locale.ROOT).split("-");
        out.putInt(at, (int) Long.parseLong(fields[0], 16)).putShort(at + 4, (short) Integer.parseInt(fields[1], 16)).putShort(at + 6,
            (short) Integer.parseInt(fields[2], 16));
        String rest = fields[3] + fields[4];
        for (int i = 0; i < 8; i++) {
            out.put(at + 8 + i, (byte) Integer.parseInt(rest.substring(2 * i, 2 * i + 2), 16));
        }
    }

    private static void require(boolean holds, String otherwise) throws FaultException {
        if (!holds) {
            throw TableWriter.refused(otherwise);
        }
    }
}
