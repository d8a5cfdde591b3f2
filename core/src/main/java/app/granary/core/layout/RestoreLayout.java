package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.filesystem.DiskSurvey;
import java.util.List;
import java.util.stream.Stream;

/**
 * Where every partition of an image comes to lie on a target. The bytes of all partitions, of the table, of alignment and of unallocated
 * stretches together are the target's size.
 *
 * @param target         what it is for
 * @param table          what the target's table will say; absent when the image has none
 * @param placed         in order of where they will lie; without containers of logical partitions
 * @param added          partitions that are made new, in order of where they will lie
 * @param tableBytes     what the table itself takes, at both ends
 * @param alignmentBytes stretches of at most 1 MiB that only bring the next partition to its boundary
 * @param unallocated    longer stretches that nothing uses
 * @param asItWas        whether everything lies where it lay, so that the image's bytes are copied one for one
 * @param othersStay     whether only the placed partitions are touched, between others that stay, and the table is left alone
 * @param steps          what a person does besides
 * @param refusals       why it cannot be done; empty when it can
 * @param remarks        what is worth knowing
 */
public record RestoreLayout(LayoutTarget target, PartitionTable table, List<Placed> placed, List<Added> added, long tableBytes,
    long alignmentBytes,
    List<Stretch> unallocated, boolean asItWas, boolean othersStay, List<Step> steps,
    List<Refusal> refusals, List<String> remarks) {
    /** Partitions start on whole 1 MiB (common practice, no source). */
    public static final long ALIGN = 1L << 20;

    public RestoreLayout {
        placed = List.copyOf(placed);
        added = List.copyOf(added);
        unallocated = List.copyOf(unallocated);
        steps = List.copyOf(steps);
        refusals = List.copyOf(refusals);
        remarks = List.copyOf(remarks);
    }

    /** A part of the target that nothing uses. */
    public record Stretch(long startBytes, long sizeBytes) {
    }

    /** @param image a survey of the disk inside the image, or of the disk that is copied */
    public static RestoreLayout of(DiskSurvey image, LayoutTarget target, LayoutChoice choice) {
        return new LayoutWriter(image, target, choice).layout();
    }

    public boolean fits() {
        return refusals.isEmpty();
    }

    public long unallocatedBytes() {
        return unallocated.stream().mapToLong(Stretch::sizeBytes).sum();
    }

    /** What stays on the target as it is, without containers of logical partitions; none where its table is written. */
    public List<Partition> staying() {
        return othersStay ? target.table().partitions().stream().filter(each -> !each.container()
            && placed.stream().noneMatch(one -> one.to().number() == each.number())).toList() : List.of();
    }

    /** Whether a file system is made smaller on the way; nothing is where it does not fit. */
    public boolean shrinks() {
        return fits() && placed.stream().anyMatch(Placed::shrunk);
    }

    /** Room for scratch files in which file systems are made smaller; 0 for none. */
    public long scratchBytes() {
        return placed.stream().mapToLong(Placed::scratchBytes).sum();
    }

    /** Of all partitions as they will be, new ones too, without containers. */
    public long partitionBytes() {
        return Stream.concat(placed.stream().map(Placed::to), added.stream().map(Added::to)).mapToLong(Partition::sizeBytes).sum();
    }
}
