package app.granary.server.disc;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Disc;
import app.granary.engine.host.Imaging;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.check.WorkOnCopy;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import java.io.IOException;
import java.util.List;
import org.springframework.stereotype.Component;

/** Lays an image out for discs, on its own drive. */
@Component
class DiscWork extends WorkOnCopy<DiscOrder> {
    private final Imaging imaging;

    DiscWork(Imaging imaging, OfficeClaims claims, Images images, ImageRecords imageRecords) {
        super(claims, images, imageRecords);
        this.imaging = imaging;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.DISCS;
    }

    @Override
    public Class<DiscOrder> orderType() {
        return DiscOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, DiscOrder order) {
        return itsDrive(run);
    }

    /** It is laid out as it lies, encrypted or not. */
    @Override
    public boolean needsPassphrase(Run run, DiscOrder order) {
        return false;
    }

    @Override
    public String perform(LiveRun running, DiscOrder order, Passphrase none) throws IOException {
        Run run = running.run();
        List<String> made = imaging.discs(images.at(run.copyId(), Passphrase.NONE), Disc.require(order.disc()).bytes(),
            order.iso(), running);
        return "Image " + run.imageName() + " is laid out for " + made.size() + " " + order.disc() + (made.size() == 1 ? "" : "s") + " on "
            + run.destination() + ", in " + made.get(0) + (made.size() == 1 ? "" : " to " + made.get(made.size() - 1)) + ". Burn each "
            + (order.iso() ? ".iso" : "folder") + " onto a disc of its own, and print its label.txt for the sleeve.";
    }
}
