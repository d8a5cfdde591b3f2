package app.granary.engine.bag;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.LeftOut;
import app.granary.core.image.BadStretch;
import app.granary.core.image.Lacks;
import app.granary.engine.codec.Codec;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What {@code data/image.json} says of an image besides its frames.
 *
 * @param name        the image's name, also its folder's
 * @param madeAt      when the capture ended, ISO 8601 with offset
 * @param disk        the disk it was read from
 * @param sectorBytes logical sector of that disk
 * @param scheme      {@code "gpt"}, {@code "mbr"}, {@code "none"}
 * @param codec       how frames are stored
 * @param level       the codec's level
 * @param allBlocks   whether free blocks were read too
 * @param usedBytes   bytes that were read; all else is zeros
 * @param partitions  in order of number
 * @param encrypted   whether each part is an OpenPGP message
 * @param badSectors  sectors that could not be read and are zeros, in order; usually empty
 * @param leftOut     content that was in use and is stored as zeros: page files, hibernation files, swap
 * @param parts       the files the frames lie in, in order
 */
public record ImageDescription(String name, String madeAt, DiskIdentity disk, int sectorBytes, String scheme, Codec codec, int level,
    boolean allBlocks, long usedBytes, boolean encrypted, List<BadStretch> badSectors, List<ImagePartition> partitions,
    List<LeftOutContent> leftOut, List<Part> parts) {

    /** The same bytes under another name, as of another moment. */
    public ImageDescription named(String otherName, String otherMoment) {
        return new ImageDescription(otherName, otherMoment, disk, sectorBytes, scheme, codec, level, allBlocks, usedBytes, encrypted,
            badSectors, partitions, leftOut, parts);
    }

    public ImageDescription {
        badSectors = List.copyOf(badSectors);
        partitions = List.copyOf(partitions);
        leftOut = List.copyOf(leftOut);
        parts = List.copyOf(parts);
    }

    /** Numbers of the partitions a person left out: their places are in the image, as zeros, and they are not. */
    public Set<Integer> lacking() {
        return leftOut.stream().filter(each -> each.what().equals(LeftOut.What.PARTITION.word())).map(LeftOutContent::partition)
            .collect(Collectors.toUnmodifiableSet());
    }

    /** The same, for people. */
    public Lacks lacks() {
        return new Lacks(partitions.stream().filter(each -> lacking().contains(each.number()))
            .map(each -> each.name().isEmpty() ? "partition " + each.number() : each.name()).toList());
    }

    /** A partition as it was at capture; {@code reason} is empty unless it was read whole. Offsets and lengths are bytes of the disk. */
    public record ImagePartition(int number, long startBytes, long sizeBytes, String type, String name, String fileSystem, long readBytes,
        String reason) {
        /** Word for it in messages. */
        public String label() {
            return number == 0 ? "the whole disk" : "partition " + number + (name.isEmpty() ? "" : " (\"" + name + "\")");
        }
    }

    /**
     * Content left out.
     *
     * @param partition number of the partition it lies in
     * @param path      the file, or an empty string for a whole swap partition
     * @param what      {@code "page file"}, {@code "hibernation file"}, {@code "swap"}, or {@code "partition"} for one that is not in the
     *                  image at all
     */
    public record LeftOutContent(int partition, String path, String what, long bytes) {
    }

    /**
     * One file of frames.
     *
     * @param name        within {@code data/}
     * @param bytes       of frames in it
     * @param storedBytes the file's length; the same unless it is encrypted
     */
    public record Part(String name, long bytes, long storedBytes) {
    }

    /** The partitions that a stretch of the disk touches, in words; "outside the partitions" when it touches none. */
    public String partitionsWithin(long startBytes, long endBytes) {
        List<String> touched = partitions.stream().filter(p -> p.startBytes() < endBytes && p.startBytes() + p.sizeBytes() > startBytes)
            .map(ImagePartition::label).toList();
        return touched.isEmpty() ? "outside the partitions" : String.join(", ", touched);
    }
}
