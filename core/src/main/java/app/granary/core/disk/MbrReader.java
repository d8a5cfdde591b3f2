package app.granary.core.disk;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * The master boot record. UEFI Specification 2.10, section 5.2.1, table 5-1: boot code 0, UniqueMBRDiskSignature 440 (u32), four
 * {@linkplain MbrRecord records} 446, 55 AA at 510. Logical partitions are a chain of such sectors in the extended one: first record the
 * partition, relative to its own sector, second record the next link, relative to the extended partition (common practice, no source).
 */
final class MbrReader {
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
        try {
            List<Partition> partitions = primary(mbr);
            Partition extended = partitions.stream().filter(Partition::container).findFirst().orElse(null);
            if (extended != null) {
                partitions.addAll(logical(extended));
            }
            Overlaps.refuse(source.name(), partitions);
            return new PartitionTable.Mbr(mbr.u32(440), partitions);
        } catch (Unsound damage) {
            return new PartitionTable.Damaged("mbr", damage.fault());
        }
    }

    private List<Partition> primary(Bytes mbr) throws Unsound {
        List<Partition> out = new ArrayList<>();
        for (MbrRecord record : MbrRecord.all(mbr)) {
            if (!record.empty()) {
                out.add(partition(record, record.number(), record.firstSector(), record.at(), PartitionType.isExtended(record.type())));
            }
        }
        return out;
    }

    private Partition partition(MbrRecord record, int number, long first, long recordAt, boolean container) throws Unsound {
        if (record.firstSector() == 0 || first > sectors - record.sectors()) {
            throw Unsound.at(source, recordAt + 8, "sectors 1 to " + (sectors - 1), first + " to " + (first + record.sectors() - 1),
                "MBR partition " + number
                    + " lies outside this disk: the file is cut short, or was copied from a larger disk");
        }
        return new Partition(number, first * sector, record.sectors() * sector, PartitionType.ofMbr(record.type()), "", "", record.boot(),
            container);
    }

    private List<Partition> logical(Partition extended) throws IOException, Unsound {
        List<Partition> out = new ArrayList<>();
        long base = extended.startBytes() / sector;
        long link = base;
        Set<Long> seen = new HashSet<>();
        while (seen.add(link) && seen.size() <= MAX_LOGICAL) {
            Bytes content = Bytes.read(source, link * sector, 512);
            if (content.u16(510) != 0xAA55) {
                throw Unsound.at(source, link * sector + 510, "55 AA", "other bytes",
                    "the chain of logical partitions leads to a sector that is no link");
            }
            MbrRecord own = MbrRecord.of(content, 0);
            MbrRecord next = MbrRecord.of(content, 1);
            if (!own.empty()) {
                out.add(partition(own, 5 + out.size(), link + own.firstSector(), link * sector + MbrRecord.FIRST, false));
            }
            if (next.type() == 0 || next.firstSector() == 0) {
                return out;
            }
            link = base + next.firstSector();
            if (link >= sectors) {
                throw Unsound.at(source, link * sector, "a sector of this disk", "" + link,
                    "the chain of logical partitions leads past the end of the disk");
            }
        }
        throw Unsound.at(source, link * sector, "an end within " + MAX_LOGICAL + " links", "a loop",
            "the chain of logical partitions does not end");
    }
}
