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
 * @param gaps        stretches between and behind partitions, in order
 * @param toRead      every byte range a capture reads, partitions, tables and gaps together
 * @param choice      what was to be read
 */
public record DiskSurvey(String name, long sizeBytes, int sectorBytes, PartitionTable table, List<SurveyedPartition> partitions,
    List<Gap> gaps,
    Extents toRead, SurveyChoice choice) {
    /** Unpartitioned stretches up to this length are read whole: boot code lies there (common practice, no source). */
    private static final long SMALL_GAP = 16L << 20;
    /** Of longer ones, this much at either end: alignment gaps and both ends of a GPT. */
    private static final long GAP_END = 1L << 20;

    public DiskSurvey {
        partitions = List.copyOf(partitions);
        gaps = List.copyOf(gaps);
    }

    /** Whether every byte is read by choice. */
    public boolean allBlocks() {
        return choice.allBlocks();
    }

    /** What is in use and not read, on all partitions. */
    public List<LeftOut> leftOut() {
        return partitions.stream().flatMap(p -> p.leftOut().stream()).toList();
    }

    /** Used bytes by the file systems' own count; a partition whose file system does not tell counts with what is read of it. */
    public long toldUsedBytes() {
        return partitions.stream().filter(p -> !p.partition().container())
            .mapToLong(p -> p.fileSystem().usedBytes().orElse(p.toRead().totalBytes())).sum();
    }

    /** Bytes of toRead, the figure estimates and captures call used. */
    public long usedBytes() {
        return toRead.totalBytes();
    }

    /**
     * @param choice when all blocks are asked for, a damaged table is recorded instead of refused
     * @throws app.granary.core.fault.FaultException when this is no disk, or its table cannot be trusted
     * @throws IOException                           when the device fails
     */
    public static DiskSurvey of(BlockSource source, SurveyChoice choice) throws IOException {
        requireWholeSectors(source);
        PartitionTable table = PartitionTables.read(source);
        if (table instanceof PartitionTable.Damaged damaged && !choice.allBlocks()) {
            throw damaged.fault().asException();
        }
        List<SurveyedPartition> partitions = new ArrayList<>();
        for (Partition partition : table.partitions()) {
            partitions.add(survey(source, partition, choice));
        }
        if (table instanceof PartitionTable.Absent) {
            surveyWithoutTable(source, partitions, choice);
        }
        List<Gap> gaps = gaps(source, table, partitions);
        Extents toRead = choice.allBlocks() ? allBut(source, partitions, choice) : toRead(source, partitions, gaps);
        return new DiskSurvey(source.name(), source.sizeBytes(), source.sectorBytes(), table, partitions, gaps, toRead, choice);
    }

    private static void requireWholeSectors(BlockSource source) throws IOException {
        if (source.sizeBytes() < 512 || source.sizeBytes() % 512 != 0) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, source.name(), source.name() + " is no disk: it is " + source.sizeBytes()
                + " bytes long, and a disk is a whole number of 512-byte sectors. Check the path.").asException();
        }
    }

    private static SurveyedPartition survey(BlockSource source, Partition partition, SurveyChoice choice) throws IOException {
        if (partition.container()) {
            return new SurveyedPartition(partition, new FileSystem.Whole("none", "it only holds the logical partitions"), Extents.NONE,
                List.of());
        }
        FileSystem found = FileSystems.probe(source, partition.startBytes(), partition.sizeBytes());
        Extents within = found instanceof FileSystem.Mapped mapped ? mapped.toRead() : Extents.range(0, partition.sizeBytes());
        if (choice.without().contains(partition.number())) {
            return new SurveyedPartition(partition, found, Extents.NONE,
                List.of(new LeftOut("", LeftOut.What.PARTITION, within).shift(partition.startBytes())));
        }
        List<LeftOut> leftOut = choice.keepSwap() || choice.allBlocks() ? List.of() : found.leftOut();
        for (LeftOut each : leftOut) {
            within = within.minus(each.ranges());
        }
        long start = partition.startBytes();
        return new SurveyedPartition(partition, found, within.shift(start), leftOut.stream().map(each -> each.shift(start)).toList());
    }

    /** A file system may start at the first byte; else the disk is blank, or not a disk Granary can make sense of. */
    private static void surveyWithoutTable(BlockSource source, List<SurveyedPartition> into, SurveyChoice choice) throws IOException {
        Partition whole = new Partition(0, 0, source.sizeBytes(), new PartitionType("", "whole disk", false), "", "", 0, false);
        SurveyedPartition found = survey(source, whole, choice);
        if (!found.fileSystem().kind().equals(FileSystems.UNKNOWN)) {
            into.add(found);
        } else if (!choice.allBlocks() && !Blank.startsBlank(source)) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, source.name(), source.name() + " holds no partition table and no file system Granary knows. "
                    + "Check that it is the disk you meant; to image it as it is, capture every block.")
                .asException();
        }
    }

    private static List<SurveyedPartition> inOrder(List<SurveyedPartition> partitions) {
        return partitions.stream().filter(p -> !p.partition().container()).sorted(Comparator.comparingLong(p -> p.partition().startBytes()))
            .toList();
    }

    private static List<Gap> gaps(BlockSource source, PartitionTable table, List<SurveyedPartition> partitions) throws IOException {
        if (table instanceof PartitionTable.Damaged) {
            return List.of();
        }
        List<Gap> out = new ArrayList<>();
        long at = 0;
        for (SurveyedPartition each : inOrder(partitions)) {
            if (each.partition().startBytes() > at) {
                out.add(Gap.look(source, at, each.partition().startBytes()));
            }
            at = each.partition().endBytes();
        }
        if (source.sizeBytes() > at) {
            out.add(Gap.look(source, at, source.sizeBytes()));
        }
        return out;
    }

    private static Extents allBut(BlockSource source, List<SurveyedPartition> partitions, SurveyChoice choice) {
        Extents out = Extents.range(0, source.sizeBytes());
        for (SurveyedPartition each : partitions) {
            if (choice.without().contains(each.partition().number())) {
                out = out.minus(Extents.range(each.partition().startBytes(), each.partition().endBytes()));
            }
        }
        return out;
    }

    private static Extents toRead(BlockSource source, List<SurveyedPartition> partitions, List<Gap> gaps) {
        Extents links = Extents.NONE;
        Extents.Builder within = new Extents.Builder();
        for (SurveyedPartition each : inOrder(partitions)) {
            for (int i = 0; i < each.toRead().count(); i++) {
                within.add(each.toRead().start(i), each.toRead().end(i));
            }
        }
        Extents.Builder between = new Extents.Builder();
        for (Gap gap : gaps) {
            kept(between, gap.startBytes(), gap.startBytes() + gap.sizeBytes());
        }
        // the first link of the chain of logical partitions; the later ones lie just before their partitions and are kept with the gaps
        for (SurveyedPartition each : partitions) {
            if (each.partition().container()) {
                links = links.union(Extents.range(each.partition().startBytes(), each.partition().startBytes() + source.sectorBytes()));
            }
        }
        return within.build().union(between.build()).union(links);
    }

    private static void kept(Extents.Builder out, long start, long end) {
        if (end - start <= SMALL_GAP) {
            out.add(start, end);
        } else {
            out.add(start, start + GAP_END);
            out.add(end - GAP_END, end);
        }
    }
}
