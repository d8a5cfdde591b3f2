package app.granary.core.layout;

import app.granary.core.disk.Extents;
import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.FileSystem;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.filesystem.SurveyedPartition;
import java.util.ArrayList;
import java.util.List;

/** Surveys as reading an image gives them, without the image. */
final class Images {
    static final String ESP = "C12A7328-F81F-11D2-BA4B-00A0C93EC93B";
    static final String BASIC = "EBD0A0A2-B9E5-4433-87C0-68B6B72699C7";
    static final String RECOVERY = "DE94BBA4-06D1-4D40-A16A-BFD50179D6AC";
    static final String LINUX = "0FC63DAF-8483-4772-8E79-3D69D8477DE4";
    static final long MIB = 1L << 20;

    private final long diskBytes;
    private final int sectorBytes;
    private final List<SurveyedPartition> parts = new ArrayList<>();

    Images(long diskBytes, int sectorBytes) {
        this.diskBytes = diskBytes;
        this.sectorBytes = sectorBytes;
    }

    /** @param highest end of the last used byte */
    Images with(int number, long start, long size, String type, String fileSystem, long used, long highest) {
        Partition partition = new Partition(number, start, size, PartitionType.of(type), "",
            type.length() == 2 ? "" : "00000000-0000-4000-8000-00000000000" + number % 10, 0, false);
        boolean mapped = List.of("ntfs", "ext4", "vfat").contains(fileSystem);
        Extents read = highest == 0 ? Extents.NONE : Extents.range(start, start + highest);
        FileSystem in = mapped ? new FileSystem.Mapped(fileSystem, 1, used, size - used, read.shift(-0), List.of())
            : new FileSystem.Whole(fileSystem, "read whole");
        parts.add(new SurveyedPartition(partition, in, read, List.of()));
        return this;
    }

    Images container(int number, long start, long size) {
        Partition partition = new Partition(number, start, size, PartitionType.of("05"), "", "", 0, true);
        parts.add(new SurveyedPartition(partition, new FileSystem.Whole("none", "it only holds the logical partitions"), Extents.NONE,
            List.of()));
        return this;
    }

    DiskSurvey gpt() {
        List<Partition> partitions = parts.stream().map(SurveyedPartition::partition).toList();
        long entries = (128 * 128 + sectorBytes - 1) / sectorBytes;
        return survey(new PartitionTable.Gpt("00000000-0000-4000-8000-000000000000", 2 + entries, diskBytes / sectorBytes - 2 - entries,
            128, partitions, List.of()));
    }

    DiskSurvey mbr() {
        return survey(new PartitionTable.Mbr(0x47524E59, parts.stream().map(SurveyedPartition::partition).toList()));
    }

    DiskSurvey survey(PartitionTable table) {
        Extents.Builder read = new Extents.Builder();
        parts.forEach(each -> {
            if (!each.toRead().isEmpty()) {
                read.add(each.toRead().start(0), each.toRead().end(0));
            }
        });
        return new DiskSurvey("image", diskBytes, sectorBytes, table, parts, List.of(), read.build(), SurveyChoice.USED);
    }
}
