package app.granary.engine.host;

import app.granary.core.image.BadStretch;
import app.granary.core.image.Lacks;
import app.granary.core.proof.CheckOutcome;
import java.util.List;

/**
 * An image just made and read back.
 *
 * @param location    where it lies, for people
 * @param storedBytes all files of it
 * @param rawBytes    length of the disk
 * @param usedBytes   bytes that were read
 * @param badSectors  sectors that could not be read and are zeros; usually empty
 * @param lacks       what of the disk is not in it; usually nothing
 * @param check       what reading it back came to
 */
public record HostImage(String location, long storedBytes, long rawBytes, long usedBytes, List<BadStretch> badSectors, Lacks lacks,
    CheckOutcome check) {
}
