package app.granary.server.repair;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Imaging;
import app.granary.server.check.Proven;
import app.granary.server.check.WorkOnCopy;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import java.io.IOException;
import java.util.List;
import org.springframework.stereotype.Component;

/** Replaces what is damaged in a copy by the same pieces of another, and proves it again. */
@Component
public class RepairWork extends WorkOnCopy<RepairOrder> {
    private final Imaging imaging;

    public RepairWork(Imaging imaging, OfficeClaims claims, Images images, ImageRecords imageRecords) {
        super(claims, images, imageRecords);
        this.imaging = imaging;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.REPAIR;
    }

    @Override
    public Class<RepairOrder> orderType() {
        return RepairOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, RepairOrder order) {
        return bothDrives(run, order.fromDestinationId());
    }

    @Override
    public boolean staysThere(Run run, RepairOrder order) {
        return machine(run, order).equals(claims.machineOfDestination(order.fromDestinationId()));
    }

    @Override
    public boolean needsPassphrase(Run run, RepairOrder order) {
        return run.encrypted() && order.proof().includes(ProofLevel.READABLE);
    }

    @Override
    public String perform(LiveRun running, RepairOrder order, Passphrase passphrase) throws IOException {
        Run run = running.run();
        long began = System.nanoTime();
        Repair.Repaired repaired = imaging.repair(images.at(run.copyId(), passphrase), images.copyOn(run.copyId(),
            order.fromDestinationId()),
            order.proof(), running);
        imageRecords.recordCheck(run.copyId(), repaired.check(), (System.nanoTime() - began) / 1e9, run.begunBy());
        Proven.require(run, repaired.check());
        return "Image " + run.imageName() + " on " + run.destination() + " was repaired from "
            + images.destinationName(order.fromDestinationId()) + ": " + Sizes.decimal(repaired.writtenBytes())
            + " written, and it is " + Proven.meaning(order.proof()) + " again.";
    }

    @Override
    public String interrupted(Run run) {
        return "Repair it again; what was repaired stays repaired.";
    }
}
