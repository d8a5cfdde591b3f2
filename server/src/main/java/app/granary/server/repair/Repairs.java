package app.granary.server.repair;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.check.CopyRuns;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Takes orders for repairs. */
@Service
public class Repairs {
    private final CopyRuns runs;
    private final Images images;

    public Repairs(CopyRuns runs, Images images) {
        this.runs = runs;
        this.images = images;
    }

    public Run begin(UUID copyId, UUID fromCopyId, Passphrase passphrase, String who) {
        Images.Shelved from = images.shelved(fromCopyId);
        if (!images.areCopies(copyId, fromCopyId)) {
            throw new Refused(HttpStatus.CONFLICT, "bad-choice", "fromImageId",
                from.name() + " on " + from.destination() + " is not a copy of this image. Choose one that is.");
        }
        ProofLevel proof = !from.encrypted() || !passphrase.isNone() ? ProofLevel.READABLE : ProofLevel.SOUND;
        return runs.begin(Run.Kind.REPAIR, copyId, proof, new RepairOrder(from.destinationId(), proof), passphrase, false, who,
            "Repair of %s on %s from " + from.destination() + " asked for.");
    }
}
