package app.granary.core.filesystem;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.PartitionType;
import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * What there is on a disk and what of it an image must hold.
 *
 * @param name        the device, as in messages
 * @param sizeBytes   the disk's length
 * @param sectorBytes its logical sector
 * @param table       its partition table; damaged only in a survey of all blocks
 * @param partitions  in order of number
 * @param toRead      every byte range a capture reads, partitions, tables and gaps together
 * @param allBlocks   whether every byte is read by choice
 */
public record DiskSurvey(String name, long sizeBytes, int sectorBytes, PartitionTable table, List<SurveyedPartition> partitions, Extents toRead,
                         boolean allBlocks) {
    /** Unpartitioned stretches up to this length are read whole: boot code lies there (common practice, no source). */
    private static final long SMALL_GAP = 16L << 20;
    /** Of longer ones, this much at either end: alignment gaps and both ends of a GPT. */
    private static final long GAP_END = 1L << 20;

    public DiskSurvey {
        partitions = List.copyOf(partitions);
    }

    /** Bytes of toRead, the figure estimates and captures call used. */
    public long usedBytes() {
        return toRead.totalBytes();
    }

    /**
     * @param allBlocks read everything, free blocks too; then a damaged table is recorded instead of refused
     * @throws app.granary.core.fault.FaultException when this is no disk, or its table cannot be trusted
     * @throws IOException when the device fails
     */
    public static DiskSurvey of(BlockSource source, boolean allBlocks) throws IOException {
        requireWholeSectors(source);
        PartitionTable table = PartitionTables.read(source);
        if (table instanceof PartitionTable.Damaged damaged && !allBlocks) {
            throw damaged.fault().asException();
        }
        List<SurveyedPartition> partitions = new ArrayList<>();
        for (Partition partition : table.partitions()) {
            partitions.add(survey(source, partition));
        }
        if (table instanceof PartitionTable.Absent) {
            surveyWithoutTable(source, partitions, allBlocks);
        }
        Extents toRead = allBlocks ? Extents.range(0, source.sizeBytes()) : toRead(source, table, partitions);
        return new DiskSurvey(source.name(), source.sizeBytes(), source.sectorBytes(), table, partitions, toRead, allBlocks);
    }

    private static void requireWholeSectors(BlockSource source) throws IOException {
        if (source.sizeBytes() < 512 || source.sizeBytes() % 512 != 0) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, source.name(), source.name() + " is no disk: it is " + source.sizeBytes()
                + " bytes long, and a disk is a whole number of 512-byte sectors. Check the path.").asException();
        }
    }

    private static SurveyedPartition survey(BlockSource source, Partition partition) throws IOException {
        if (partition.container()) {
            return new SurveyedPartition(partition, new FileSystem.Whole("none", "it only holds the logical partitions"), Extents.NONE);
        }
        FileSystem found = FileSystems.probe(source, partition.startBytes(), partition.sizeBytes());
        Extents within = found instanceof FileSystem.Mapped mapped ? mapped.toRead() : Extents.range(0, partition.sizeBytes());
        return new SurveyedPartition(partition, found, within.shift(partition.startBytes()));
    }

    /** A file system may start at the first byte; else the disk is blank, or not a disk Granary can make sense of. */
    private static void surveyWithoutTable(BlockSource source, List<SurveyedPartition> into, boolean allBlocks) throws IOException {
        Partition whole = new Partition(0, 0, source.sizeBytes(), new PartitionType("", "whole disk", false), "", "", 0, false);
        SurveyedPartition found = survey(source, whole);
        if (!found.fileSystem().kind().equals("unknown")) {
            into.add(found);
        } else if (!allBlocks && !Blank.startsBlank(source)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, source.name(), source.name() + " holds no partition table and no file system Granary knows. "
                + "Check that it is the disk you meant; to image it as it is, capture every block.").asException();
        }
    }

    private static Extents toRead(BlockSource source, PartitionTable table, List<SurveyedPartition> partitions) {
        List<SurveyedPartition> sorted = partitions.stream().filter(p -> !p.partition().container())
            .sorted(Comparator.comparingLong(p -> p.partition().startBytes())).toList();
        Extents.Builder out = new Extents.Builder();
        long at = 0;
        for (SurveyedPartition each : sorted) {
            gap(out, at, each.partition().startBytes());
            for (int i = 0; i < each.toRead().count(); i++) {
                out.add(each.toRead().start(i), each.toRead().end(i));
            }
            at = each.partition().endBytes();
        }
        gap(out, at, source.sizeBytes());
        return out.build().union(links(source, table));
    }

    private static void gap(Extents.Builder out, long start, long end) {
        if (end - start <= SMALL_GAP) {
            out.add(start, Math.max(start, end));
        } else {
            out.add(start, start + GAP_END);
            out.add(end - GAP_END, end);
        }
    }

    /** The first link of the chain of logical partitions; the later ones lie just before their partitions and are kept with the gaps. */
    private static Extents links(BlockSource source, PartitionTable table) {
        Extents links = Extents.NONE;
        for (Partition partition : table.partitions()) {
            if (partition.container()) {
                links = links.union(Extents.range(partition.startBytes(), partition.startBytes() + source.sectorBytes()));
            }
        }
        return links;
    }
}
