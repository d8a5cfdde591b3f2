package app.granary.server.copy;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.host.ImageAt;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Imaging;
import app.granary.server.check.WorkOnCopy;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.destination.Promises;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.image.Moves;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import java.io.IOException;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Copies an image from one destination to another and holds the copy against its digests. */
@Component
public class CopyWork extends WorkOnCopy<CopyOrder> {
    private final Imaging imaging;
    private final Promises promises;
    private final Moves moves;

    public CopyWork(Imaging imaging, OfficeClaims claims, Images images, ImageRecords imageRecords, Promises promises,
        Moves moves) {
        super(claims, images, imageRecords);
        this.imaging = imaging;
        this.promises = promises;
        this.moves = moves;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.COPY;
    }

    @Override
    public Class<CopyOrder> orderType() {
        return CopyOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, CopyOrder order) {
        return bothDrives(run, order.toDestinationId());
    }

    @Override
    public boolean staysThere(Run run, CopyOrder order) {
        return machine(run, order).equals(claims.machineOfDestination(order.toDestinationId()));
    }

    /** It is copied as it lies, encrypted or not. */
    @Override
    public boolean needsPassphrase(Run run, CopyOrder order) {
        return false;
    }

    @Override
    public String perform(LiveRun running, CopyOrder order, Passphrase none) throws IOException {
        Run run = running.run();
        String to = order.toDestinationId();
        Images.Shelved image = images.shelved(run.copyId());
        promises.promise(run.id(), to, image.storedBytes());
        ImageAt from = images.at(run.copyId(), Passphrase.NONE);
        CheckOutcome outcome = imaging.copy(from, to, running);
        String name = images.destinationName(to);
        UUID copy = imageRecords.recordCopy(run.copyId(), to, name, outcome, run.begunBy());
        running.made(copy, image.storedBytes());
        return "Image " + run.imageName() + " copied from " + run.destination() + " to " + name + ": every digest of the copy matches."
            + moves.lay(copy, from.folder());
    }
}
