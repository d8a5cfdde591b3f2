package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Which bytes of a target partitions may take. A GPT keeps room at both ends (UEFI Specification 2.10, section 5.3.1); an MBR names sectors
 * by 32 bits.
 *
 * @param startBytes first byte
 * @param endBytes   exclusive
 * @param tableBytes what the table takes before and behind
 * @param cutBytes   what lies beyond an MBR's reach
 */
record Usable(long startBytes, long endBytes, long tableBytes, long cutBytes) {
    private static final int GPT_ENTRY_BYTES = 128;
    private static final long MBR_SECTORS = 1L << 32;

    static Usable of(PartitionTable table, LayoutTarget target) {
        long sectors = target.sizeBytes() / target.sectorBytes();
        if (table instanceof PartitionTable.Gpt gpt) {
            long entries = ((long) gpt.entryCount() * GPT_ENTRY_BYTES + target.sectorBytes() - 1) / target.sectorBytes();
            long start = gpt.firstUsableLba() * target.sectorBytes();
            long end = Math.max(start, (sectors - 1 - entries) * target.sectorBytes());
            return new Usable(start, end, start + target.sizeBytes() - end, 0);
        }
        if (table instanceof PartitionTable.Mbr) {
            long end = Math.min(sectors, MBR_SECTORS) * target.sectorBytes();
            return new Usable(target.sectorBytes(), end, target.sectorBytes(), target.sizeBytes() - end);
        }
        return new Usable(0, target.sizeBytes(), 0, 0);
    }

    /** Stretches longer than alignment needs; in order. */
    List<RestoreLayout.Stretch> free(List<Partition> places, long targetBytes, long align) {
        List<RestoreLayout.Stretch> out = new ArrayList<>();
        long at = startBytes;
        for (Partition each : places.stream().sorted(Comparator.comparingLong(Partition::startBytes)).toList()) {
            add(out, at, each.startBytes(), align);
            at = Math.max(at, each.endBytes());
        }
        add(out, at, cutBytes > 0 ? targetBytes : endBytes, align);
        return out;
    }

    private static void add(List<RestoreLayout.Stretch> out, long from, long to, long align) {
        if (to - from > align) {
            out.add(new RestoreLayout.Stretch(from, to - from));
        }
    }
}
