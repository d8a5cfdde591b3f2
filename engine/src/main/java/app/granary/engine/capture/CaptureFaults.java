package app.granary.engine.capture;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.measure.Sizes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What a capture says when it fails. */
final class CaptureFaults {
    private CaptureFaults() {
    }

    /** Room is the usual reason a write fails; the operating system says so only in words. */
    static IOException explained(IOException failure, Path destination) {
        if (failure instanceof FaultException known) {
            return known;
        }
        String why = String.valueOf(failure.getMessage());
        if (why.contains("No space left") || why.contains("quota")) {
            return Fault.of(Fault.Kind.NO_ROOM, destination.toString(), "The destination " + destination + " became full ("
                + left(destination)
                + " left). No image was made; the disk and the older images are untouched. Make room and carry on, or discard what was "
                + "written and choose another destination.")
                .asException();
        }
        return Fault.of(Fault.Kind.DEVICE_FAILED, destination.toString(), "Writing to " + destination + " failed: " + why
            + ". No image was made; the disk and the older images are untouched. Check the drive and its cable, then carry on.")
            .asException();
    }

    private static String left(Path destination) {
        try {
            return Sizes.decimal(Files.getFileStore(destination).getUsableSpace());
        } catch (IOException gone) {
            return "nothing";
        }
    }
}
