package app.granary.engine.host;

import app.granary.core.image.BadStretch;
import app.granary.core.image.Lacks;
import java.util.List;

/**
 * What an image says of itself, as it lies there now.
 *
 * @param sizeBytes  length of the disk
 * @param lacks      what of the disk is not in it; usually nothing
 * @param partitions in order of number
 * @param badSectors sectors that could not be read and are zeros
 * @param parts      files of frames with their lengths and digests, in order
 */
public record ImageFacts(long sizeBytes, boolean encrypted, Lacks lacks, List<Stretch> partitions, List<BadStretch> badSectors,
    List<File> parts) {
    /**
     * A partition: where it lies on the disk, and what it is in words.
     *
     * @param held    whether it is in the image; one that is not is zeros there
     * @param density how densely its chunks are stored, slice by slice, in thousandths of their length; empty where the image has no index
     *                of chunks
     */
    public record Stretch(int number, long startBytes, long sizeBytes, long readBytes, String label, String fileSystem, boolean held,
        List<Integer> density) {
    }

    /** @param digest SHA-256 by the manifest, in hexadecimal; empty when the manifest cannot be read */
    public record File(String name, long bytes, String digest) {
    }
}
