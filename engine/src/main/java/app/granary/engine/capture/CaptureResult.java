package app.granary.engine.capture;

import app.granary.core.image.BadStretch;
import app.granary.core.proof.CheckOutcome;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A finished capture.
 *
 * @param bag         the image's folder, under its final name
 * @param storedBytes all files of the bag together
 * @param rawBytes    length of the disk
 * @param usedBytes   bytes that were read
 * @param badSectors  sectors that could not be read and are zeros; usually empty
 * @param check       the check made before naming it; empty when none was asked for
 */
public record CaptureResult(Path bag, long storedBytes, long rawBytes, long usedBytes, List<BadStretch> badSectors,
    Optional<CheckOutcome> check) {
}
