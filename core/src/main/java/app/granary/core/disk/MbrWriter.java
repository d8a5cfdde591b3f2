package app.granary.core.disk;

import app.granary.core.fault.FaultException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Writes an MBR and the chain of logical partitions (layouts at {@link MbrReader} and {@link MbrRecord}). */
final class MbrWriter {
    /**
     * Links are placed this far before their partition where there is room: 1 MiB, as partition editors do (common practice, no source).
     */
    private static final long LINK_BEFORE_BYTES = 1L << 20;
    private static final long MOST = 0xFFFF_FFFFL;
    private static final int EXTENDED = 0x05;

    private final PartitionTable.Mbr table;
    private final int sector;
    private final long sectors;
    private final byte[] firstSector;

    MbrWriter(PartitionTable.Mbr table, long diskBytes, int sectorBytes, byte[] firstSector) {
        this.table = table;
        this.sector = sectorBytes;
        this.sectors = diskBytes / sectorBytes;
        this.firstSector = firstSector;
    }

    List<TableSectors> write() throws FaultException {
        ByteBuffer mbr = TableSectors.buffer(sector);
        mbr.put(0, firstSector, 0, firstSector.length < TableWriter.BOOT_CODE_BYTES ? 0 : TableWriter.BOOT_CODE_BYTES);
        mbr.putInt(440, (int) table.diskSignature()).putShort(510, (short) 0xAA55);
        List<Partition> logical = new ArrayList<>();
        Partition extended = null;
        for (Partition partition : table.partitions()) {
            requireFits(partition);
            if (partition.number() > MbrRecord.COUNT) {
                logical.add(partition);
                continue;
            }
            if (partition.container()) {
                require(extended == null, "it has two extended partitions, and an MBR can have one");
                extended = partition;
            }
            record(mbr, partition.number() - 1, partition, partition.startBytes() / sector, type(partition),
                partition.sizeBytes() / sector);
        }
        List<TableSectors> out = new ArrayList<>(List.of(new TableSectors(0, mbr.array())));
        if (extended != null) {
            out.addAll(chain(extended, logical));
        } else {
            require(logical.isEmpty(), "it has logical partitions and no extended one to hold them");
        }
        return out;
    }

    /** One link before each logical partition; the first at the start of the extended one, which is there even when it is empty. */
    private List<TableSectors> chain(Partition extended, List<Partition> logical) throws FaultException {
        List<Long> links = new ArrayList<>();
        long free = extended.startBytes();
        for (int i = 0; i < logical.size(); i++) {
            Partition partition = logical.get(i);
            require(partition.startBytes() > free && partition.endBytes() <= extended.endBytes(), partition.label()
                + " leaves no sector for its link, or does not lie in the extended partition behind the one before");
            links.add(i == 0 ? free : Math.max(free, partition.startBytes() - LINK_BEFORE_BYTES));
            free = partition.endBytes();
        }
        List<TableSectors> out = new ArrayList<>();
        for (int i = 0; i < Math.max(1, links.size()); i++) {
            ByteBuffer content = TableSectors.buffer(sector);
            long link = links.isEmpty() ? extended.startBytes() : links.get(i);
            if (i < links.size()) {
                Partition own = logical.get(i);
                record(content, 0, own, (own.startBytes() - link) / sector, type(own), own.sizeBytes() / sector);
            }
            if (i + 1 < links.size()) {
                long next = links.get(i + 1);
                Partition following = logical.get(i + 1);
                record(content, 1, following, (next - extended.startBytes()) / sector, EXTENDED, (following.endBytes() - next) / sector);
                content.put(MbrRecord.FIRST + MbrRecord.BYTES, (byte) 0);
            }
            out.add(new TableSectors(link, content.putShort(510, (short) 0xAA55).array()));
        }
        out.sort(Comparator.comparingLong(TableSectors::offsetBytes));
        return out;
    }

    private void record(ByteBuffer into, int index, Partition partition, long first, int type, long count) {
        int at = MbrRecord.FIRST + MbrRecord.BYTES * index;
        into.put(at, (byte) partition.attributes()).put(at + 4, (byte) type).putInt(at + 8, (int) first).putInt(at + 12, (int) count);
        // cylinders, heads and sectors say "use the sector number" (UEFI Specification 2.10, table 5-2, for what 24 bits cannot hold)
        for (int chs : new int[] {at + 1, at + 5}) {
            into.put(chs, (byte) 0xFE).put(chs + 1, (byte) 0xFF).put(chs + 2, (byte) 0xFF);
        }
    }

    private static int type(Partition partition) throws FaultException {
        require(partition.type().code().matches("[0-9A-F]{2}") && !partition.type().code().equals("00"),
            "\"" + partition.type().code() + "\" is not a type an MBR can hold");
        return Integer.parseInt(partition.type().code(), 16);
    }

    private void requireFits(Partition partition) throws FaultException {
        require(partition.number() >= 1, "a partition has the number " + partition.number());
        require(partition.startBytes() % sector == 0 && partition.sizeBytes() % sector == 0,
            partition.label() + " is not a whole number of sectors of " + sector + " bytes");
        long first = partition.startBytes() / sector;
        long count = partition.sizeBytes() / sector;
        require(first >= 1 && count >= 1 && first <= sectors - count,
            partition.label() + " takes sectors " + first + " to " + (first + count - 1) + " of a disk that has " + sectors);
        require(first <= MOST && count <= MOST,
            partition.label() + " begins or reaches past sector 2^32, which an MBR cannot say; use a GPT");
    }

    private static void require(boolean holds, String otherwise) throws FaultException {
        if (!holds) {
            throw TableWriter.refused(otherwise);
        }
    }
}
