package app.granary.core.disk;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The master boot record. UEFI Specification 2.10, section 5.2.1, tables 5-1 and 5-2:
 * <pre>
 *  offset size field
 *  440     4   UniqueMBRDiskSignature
 *  446    16   PartitionRecord x 4: boot indicator 0, type 4, first LBA 8 (u32), sectors 12 (u32)
 *  510     2   55 AA
 * </pre>
 * Logical partitions are a chain of such sectors in the extended one: first record the partition, relative to its own sector, second
 * record the next link, relative to the extended partition (common practice, no source).
 */
final class MbrReader {
    private static final int RECORDS = 446;
    /** Bounds the chain of logical partitions whatever the links say. */
    private static final int MAX_LOGICAL = 128;

    private final BlockSource source;
    private final int sector;
    private final long sectors;

    MbrReader(BlockSource source) {
        this.source = source;
        this.sector = source.sectorBytes();
        this.sectors = source.sizeBytes() / sector;
    }

    PartitionTable read(Bytes mbr) throws IOException {
        List<Partition> partitions = new ArrayList<>();
        Partition extended = null;
        for (int i = 0; i < 4; i++) {
            int at = RECORDS + 16 * i;
            int type = mbr.u8(at + 4);
            long first = mbr.u32(at + 8);
            long count = mbr.u32(at + 12);
            if (type == 0 || count == 0) {
                continue;
            }
            if (first == 0 || first > sectors - count) {
                return outside(at, i + 1, first, count);
            }
            boolean container = PartitionType.isExtended(type);
            Partition partition = new Partition(i + 1, first * sector, count * sector, PartitionType.ofMbr(type), "", "", mbr.u8(at), container);
            partitions.add(partition);
            if (container && extended == null) {
                extended = partition;
            }
        }
        if (extended != null) {
            Optional<PartitionTable> broken = readLogical(extended, partitions);
            if (broken.isPresent()) {
                return broken.get();
            }
        }
        return Overlaps.check("mbr", source.name(), partitions).orElseGet(() -> new PartitionTable.Mbr(mbr.u32(440), partitions));
    }

    private Optional<PartitionTable> readLogical(Partition extended, List<Partition> into) throws IOException {
        long base = extended.startBytes() / sector;
        long link = base;
        int number = 5;
        Set<Long> seen = new HashSet<>();
        while (seen.add(link) && seen.size() <= MAX_LOGICAL) {
            Bytes record = Bytes.read(source, link * sector, 512);
            if (record.u16(510) != 0xAA55) {
                return Optional.of(damaged(link * sector + 510, "55 AA", "other bytes", "the chain of logical partitions leads to a sector that is no link"));
            }
            long first = record.u32(RECORDS + 8);
            long count = record.u32(RECORDS + 12);
            int type = record.u8(RECORDS + 4);
            if (type != 0 && count != 0) {
                if (first == 0 || link + first > sectors - count) {
                    return Optional.of(outside(RECORDS, number, link + first, count));
                }
                into.add(new Partition(number++, (link + first) * sector, count * sector, PartitionType.ofMbr(type), "", "", record.u8(RECORDS), false));
            }
            long next = record.u32(RECORDS + 16 + 8);
            if (record.u8(RECORDS + 16 + 4) == 0 || next == 0) {
                return Optional.empty();
            }
            link = base + next;
            if (link >= sectors) {
                return Optional.of(damaged(link * sector, "a sector of this disk", "" + link, "the chain of logical partitions leads past the end of the disk"));
            }
        }
        return Optional.of(damaged(link * sector, "an end within " + MAX_LOGICAL + " links", "a loop", "the chain of logical partitions does not end"));
    }

    private PartitionTable outside(int at, int number, long first, long count) {
        return damaged(at + 8, "sectors 1 to " + (sectors - 1), first + " to " + (first + count - 1), "MBR partition " + number
            + " lies outside this disk: the file is cut short, or was copied from a larger disk");
    }

    private PartitionTable damaged(long offset, String expected, String found, String what) {
        return new PartitionTable.Damaged("mbr", Fault.damaged(source.name(), offset, expected, found, source.name() + ": " + what + " (expected "
            + expected + ", found " + found + "). Mend the table with a partition editor, or capture every block."));
    }
}
