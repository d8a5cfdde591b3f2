package app.granary.server.rescue;

import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.core.image.BadStretch;
import app.granary.core.measure.Sizes;
import app.granary.engine.copy.StickImage;
import app.granary.engine.host.Overwriting;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.problem.Refused;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Work;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import org.springframework.stereotype.Component;

/** Reads a stick, all of it, into a file that others like it can be written from. */
@Component
class KeepWork implements Work<KeepOrder> {
    private final Overwriting overwriting;
    private final RescueStickRepository sticks;
    private final Clock clock;

    KeepWork(Overwriting overwriting, RescueStickRepository sticks, Clock clock) {
        this.overwriting = overwriting;
        this.sticks = sticks;
        this.clock = clock;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.KEEP;
    }

    @Override
    public Class<KeepOrder> orderType() {
        return KeepOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, KeepOrder order) {
        return List.of(DeviceClaim.read(Device.of(order.stick(), order.targetId(), order.name())));
    }

    /** Every reading that fails somewhere counts against the stick. */
    @Override
    public String perform(LiveRun running, KeepOrder order, Passphrase none) throws IOException {
        StickImage image = overwriting.keepRaw(order.targetId(), order.stick(), order.file(), running);
        RescueStick stick = sticks.findById(order.stickId()).orElseThrow(() -> Refused.notFound("rescue medium"));
        if (!image.bad().isEmpty()) {
            stick.failed(image.bad().size());
            sticks.save(stick);
            throw Fault.of(Fault.Kind.DAMAGED, stick.name(), Sizes.decimal(image.bad().stream().mapToLong(BadStretch::sizeBytes).sum())
                + " of " + stick.name() + " cannot be read, in " + image.bad().size() + " places, so no image of it was kept: it would "
                + "start nothing. Write the stick anew, or take it out of use.").asException();
        }
        stick.kept(order.file(), image.sha256(), clock.instant());
        sticks.save(stick);
        return stick.name() + " was kept byte for byte as " + order.file() + ", read back and equal: " + Sizes.decimal(image.bytes())
            + ", SHA-256 " + image.sha256() + ". Write it onto other sticks from their lines.";
    }
}
