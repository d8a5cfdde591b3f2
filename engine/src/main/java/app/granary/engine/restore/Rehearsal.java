package app.granary.engine.restore;

import app.granary.core.fault.Fault;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A restore for practice: the image goes through the code of a real one onto a scratch file, which is then read back and compared with the
 * chunk index.
 */
public final class Rehearsal {
    private Rehearsal() {
    }

    /**
     * @param scratch an existing folder with room for what the disk holds; nothing is left in it
     * @return what the check up to readable found, or, when that was nothing, what the comparison found
     * @throws app.granary.core.fault.FaultException when there is no room to rehearse in, or the image cannot be opened
     */
    public static CheckOutcome run(Bag bag, Path scratch, Watch watch) throws IOException {
        ImageJson.Content content = bag.content();
        long room = Files.getFileStore(scratch).getUsableSpace();
        if (room < content.description().usedBytes()) {
            throw Fault.of(Fault.Kind.NO_ROOM, scratch.toString(),
                "Rehearsing needs " + Sizes.decimal(content.description().usedBytes()) + " of scratch room, and " + scratch
                    + " has " + Sizes.decimal(room) + " free. Make room there, or check the image up to readable.")
                .asException();
        }
        CheckOutcome read = Verification.run(bag, ProofLevel.READABLE, watch);
        if (!read.ok()) {
            return read;
        }
        Path file = Files.createTempDirectory(scratch, "rehearsal-").resolve("disk.img");
        try {
            RestoreRequest request = Restore.asItWas(bag, content, content.description().disk().sizeBytes());
            RestoreOutcome outcome = Restore.run(bag, content, request,
                RestoreTarget.file(file, request.layout().target().sizeBytes(), content.description().sectorBytes()), watch);
            return new CheckOutcome(ProofLevel.REHEARSED, outcome.differences(), read.readBytes() * 2);
        } finally {
            Files.deleteIfExists(file);
            Files.deleteIfExists(file.getParent());
        }
    }
}
