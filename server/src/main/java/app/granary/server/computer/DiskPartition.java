package app.granary.server.computer;

import app.granary.core.filesystem.SurveyedPartition;
import app.granary.core.inventory.PartitionReport;
import app.granary.core.disk.PartitionType;
import app.granary.server.working.Working;
import app.granary.server.column.JsonColumn;
import com.fasterxml.jackson.core.type.TypeReference;
import jakarta.persistence.Convert;
import jakarta.persistence.Converter;
import jakarta.persistence.Entity;
import jakarta.persistence.FetchType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToOne;
import java.util.List;
import java.util.OptionalLong;
import java.util.UUID;

/** A partition of a disk, as it was last read or reported. */
@Entity
class DiskPartition {
    @Id
    private UUID id;
    @ManyToOne(fetch = FetchType.LAZY)
    @JoinColumn(name = "disk_id")
    private Disk disk;
    private int number;
    private long startBytes;
    private long sizeBytes;
    private String type;
    private String name;
    private String fileSystem;
    private Long usedBytes;
    private Long freeBytes;
    private long toReadBytes;
    @Convert(converter = LeftOuts.class)
    private List<Wire.LeftOutContent> leftOut;
    private boolean hidden;
    private boolean readWhole;
    private boolean container;
    private String reason;

    protected DiskPartition() {
    }

    /** Content that a capture leaves out. */
    @Converter
    static class LeftOuts extends JsonColumn<List<Wire.LeftOutContent>> {
        LeftOuts() {
            super(new TypeReference<>() {});
        }
    }

    private static DiskPartition in(Disk disk, int number, long start, long size, PartitionType type, String name, String fileSystem) {
        DiskPartition partition = new DiskPartition();
        partition.id = UUID.randomUUID();
        partition.disk = disk;
        partition.number = number;
        partition.startBytes = start;
        partition.sizeBytes = size;
        partition.type = type.name();
        partition.hidden = type.hidden();
        partition.name = name;
        partition.fileSystem = fileSystem;
        partition.leftOut = List.of();
        partition.reason = "";
        return partition;
    }

    static DiskPartition read(Disk disk, SurveyedPartition each) {
        DiskPartition out = in(disk, each.partition().number(), each.partition().startBytes(), each.partition().sizeBytes(),
            each.partition().type(), each.partition().name(),
            each.fileSystem().kind());
        out.usedBytes = Working.orNull(each.fileSystem().usedBytes());
        out.freeBytes = Working.orNull(each.fileSystem().freeBytes());
        out.toReadBytes = each.toRead().totalBytes();
        out.leftOut = each.leftOut().stream().map(l -> new Wire.LeftOutContent(l.what().word(), l.path(), l.bytes())).toList();
        out.readWhole = each.readWhole();
        out.container = each.partition().container();
        out.reason = each.reason();
        return out;
    }

    /** What a report tells; how much would be read is only known by the used bytes, and without them it is all. */
    static DiskPartition reported(Disk disk, PartitionReport report) {
        DiskPartition out = in(disk, report.number(), report.startBytes(), report.sizeBytes(), PartitionType.of(report.type()),
            report.name(),
            report.fileSystem().isEmpty() ? "unknown" : report.fileSystem());
        if (report.type().isEmpty()) {
            out.type = "";
        }
        out.usedBytes = Working.orNull(report.usedBytes());
        out.freeBytes = report.usedBytes().isPresent() ? report.sizeBytes() - report.usedBytes().getAsLong() : null;
        out.toReadBytes = report.usedBytes().orElse(report.sizeBytes());
        out.readWhole = report.usedBytes().isEmpty();
        out.reason = out.readWhole ? "the report tells no used bytes" : "";
        return out;
    }

    PartitionReport report() {
        return new PartitionReport(number, startBytes, sizeBytes, "", name, fileSystem,
            usedBytes == null ? OptionalLong.empty() : OptionalLong.of(usedBytes));
    }

    boolean container() {
        return container;
    }

    Wire.Partition wire() {
        return new Wire.Partition(number, startBytes, sizeBytes, type, name, fileSystem, usedBytes, freeBytes, toReadBytes, hidden,
            readWhole, container, reason, leftOut);
    }
}
