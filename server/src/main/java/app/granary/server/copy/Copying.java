package app.granary.server.copy;

import app.granary.core.destination.Destination;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageStore;
import app.granary.server.check.CopyRuns;
import app.granary.server.destination.Promises;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import java.io.IOException;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Takes orders for further copies. */
@Service
public class Copying {
    private final ImageStore store;
    private final CopyRuns runs;
    private final Images images;
    private final Promises promises;

    public Copying(ImageStore store, CopyRuns runs, Images images, Promises promises) {
        this.store = store;
        this.runs = runs;
        this.images = images;
        this.promises = promises;
    }

    public Run begin(UUID copyId, String toDestinationId, String who) throws IOException {
        Images.Shelved image = images.shelved(copyId);
        if (images.exists(toDestinationId, image.name())) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "toDestinationId",
                "There is an image of that name on that destination already. Choose another destination.");
        }
        requireRoom(toDestinationId, image.storedBytes());
        return runs.begin(Run.Kind.COPY, copyId, ProofLevel.SOUND, new CopyOrder(toDestinationId), Passphrase.NONE, false, who,
            "Copy of %s from %s asked for.");
    }

    /** For what is written without an estimate: room for it, with the reserve kept, and the drive there. */
    private void requireRoom(String destinationId, long bytes) throws IOException {
        Destination to = store.destinations().stream().filter(d -> d.id().equals(destinationId) && d.attached()).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "unfit-attached",
                "toDestinationId", "That destination is not attached. Attach it, or choose another."));
        long room = to.freeBytes() - promises.promisedBytes(destinationId, "") - to.reserveBytes();
        if (room < bytes) {
            throw new Refused(HttpStatus.CONFLICT, "unfit-room", "toDestinationId",
                to.name() + " has " + Sizes.decimal(Math.max(0, room))
                    + " to give beyond its reserve and what is promised, and the copy needs "
                    + Sizes.decimal(bytes) + ". Choose another destination, or make room.");
        }
    }
}
