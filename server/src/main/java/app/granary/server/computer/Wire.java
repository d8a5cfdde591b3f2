package app.granary.server.computer;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;

/** The inventory as it goes over the wire. Sizes are bytes. */
final class Wire {
    private Wire() {
    }

    /**
     * @param reading   whether attached disks are being read right now, so that more is to come
     * @param computers in order of name, retired ones too
     * @param untold    attached disks that cannot be told by what they say
     */
    record ComputerList(boolean reading, List<ComputerLine> computers, List<UntoldLine> untold) {
    }

    /**
     * A disk that waits for a person to say which it is.
     *
     * @param attachment what it is called as long as it stays plugged in
     * @param name       what the system calls it
     * @param reached    the connector, as the system counts them; an empty string where that is not told
     * @param why        a sentence
     * @param maybe      disks on record it may be
     */
    record UntoldLine(String attachment, String name, String model, String serial, long sizeBytes, String reached, String why,
        List<MaybeLine> maybe) {
    }

    record MaybeLine(String diskId, String computer, String disk, String model, String serial) {
    }

    /**
     * @param attached    whether any of its disks is at hand now
     * @param lastImageAt when the newest image of one of its disks was made; null when there is none
     * @param warning     a sentence on what is wrong with it; empty when nothing is
     */
    record ComputerLine(UUID id, String name, String role, String owner, String encryption, boolean attached, boolean retired,
        @Schema(types = {
            "string", "null"}) Instant lastImageAt,
        boolean lastImageSound, String warning, List<DiskLine> disks){
    }

    /**
     * @param usedBytes what a capture reads of it, tables and gaps included
     * @param attached  whether it is at hand now
     * @param refusal   why the disk cannot be read, or an empty string; then there are no partitions
     */
    record DiskLine(String id, String name, String model, String serial, long sizeBytes, String bus, int sectorBytes, String scheme,
        long usedBytes, boolean attached,
        List<Partition> partitions, String refusal) {
        static DiskLine of(Disk disk, boolean attached) {
            return new DiskLine(disk.id(), disk.name(), disk.identity().model(), disk.identity().serial(), disk.identity().sizeBytes(),
                disk.bus(), disk.sectorBytes(),
                disk.scheme(), disk.toReadBytes(), attached, disk.partitions().stream().map(DiskPartition::wire).toList(), disk.refusal());
        }
    }

    /**
     * @param usedBytes   null when the file system does not tell
     * @param toReadBytes what a capture reads of it
     * @param container   an extended partition, drawn as the frame of the logical ones
     * @param leftOut     content in use that is stored as zeros
     */
    record Partition(int number, long startBytes, long sizeBytes, String type, String name, String fileSystem, @Schema(types = {
        "integer", "null"}) Long usedBytes,
        @Schema(types = {"integer", "null"}) Long freeBytes, long toReadBytes, boolean hidden, boolean readWhole, boolean container,
        String reason,
        List<LeftOutContent> leftOut){
    }

    /** @param path the file, or an empty string for a whole swap partition */
    record LeftOutContent(String what, String path, long bytes) {
    }

    /**
     * All there is to know of a computer.
     *
     * @param suggestedKey key that makers of that name usually use for the boot menu; empty when there is none to suggest
     * @param source       how it came to be known
     * @param version      for If-Match
     * @param filesSavedOn when its files were last saved by other means; null when nobody noted it
     * @param filesNote    how, or an empty string
     */
    record ComputerDetail(ComputerLine line, ComputerForm form, String suggestedKey, String source, long version, List<DiskDetail> disks,
        @Schema(types = {
            "string", "null"}) LocalDate filesSavedOn,
        String filesNote){
    }

    /**
     * @param removedAt when it was found to be gone; null while it is there
     * @param remarks   what is odd about its partition table
     * @param gaps      unpartitioned stretches; empty when the disk is not attached
     * @param readings  used bytes over time, oldest first
     * @param learnt    what an image would weigh, for a disk that is not attached; null for one that is, since it can be sampled
     */
    record DiskDetail(DiskLine line, Instant seenAt, @Schema(types = {
        "string", "null"}) Instant removedAt, List<String> remarks, List<GapLine> gaps, List<Reading> readings,
        @Schema(types = {"object", "null"}) LearntSizes.Learnt learnt){
    }

    /** @param holds what its beginning shows: nothing, data, or the kind of a file system */
    record GapLine(long startBytes, long sizeBytes, String holds) {
    }

    record Reading(Instant at, long usedBytes, String source) {
    }
}
