package app.granary.server.repair;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.copy.Repair;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.site.Site;
import app.granary.server.check.Proven;
import app.granary.server.claim.OfficeDevices;
import app.granary.server.image.Images;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Work;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Replaces what is damaged in a copy by the same pieces of another, and proves it again. */
@Component
public class RepairWork implements Work<RepairOrder> {
    private final Site site;
    private final OfficeDevices devices;
    private final Images images;

    public RepairWork(Site site, OfficeDevices devices, Images images) {
        this.site = site;
        this.devices = devices;
        this.images = images;
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
        List<DeviceClaim> out = new ArrayList<>(devices.storing(run.destinationId(), run.destination()));
        out.addAll(devices.storing(order.fromDestinationId(), images.destinationNameOrId(order.fromDestinationId())));
        return out;
    }

    @Override
    public boolean needsPassphrase(Run run, RepairOrder order) {
        return run.encrypted() && order.proof().includes(ProofLevel.READABLE);
    }

    @Override
    public boolean same(Run asked, Run other) {
        return asked.copyId().equals(other.copyId());
    }

    @Override
    public String perform(LiveRun running, RepairOrder order, Passphrase passphrase) throws IOException {
        Run run = running.run();
        long began = System.nanoTime();
        Repair.Mended mended = site.mend(images.at(run.copyId(), passphrase), images.copyOn(run.copyId(), order.fromDestinationId()),
            order.proof(), running);
        images.recordCheck(run.copyId(), mended.check(), (System.nanoTime() - began) / 1e9, run.begunBy());
        Proven.require(run, mended.check());
        return "Image " + run.imageName() + " on " + run.destination() + " was mended from "
            + images.destinationName(order.fromDestinationId()) + ": " + Sizes.decimal(mended.writtenBytes())
            + " written, and it is " + Proven.meaning(order.proof()) + " again.";
    }

    @Override
    public String interrupted(Run run) {
        return "Mend it again; what was mended stays mended.";
    }
}
