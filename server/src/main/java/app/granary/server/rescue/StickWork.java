package app.granary.server.rescue;

import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.fault.Fault;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.host.Overwriting;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import app.granary.server.queue.Work;
import app.granary.server.target.Targets;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Writes a file onto a stick and compares; the register says what is on the stick once that is done. */
@Component
class StickWork implements Work<StickOrder> {
    private final Overwriting overwriting;
    private final OfficeClaims claims;
    private final Targets targets;
    private final RescueStickRepository sticks;

    StickWork(Overwriting overwriting, OfficeClaims claims, Targets targets, RescueStickRepository sticks) {
        this.overwriting = overwriting;
        this.claims = claims;
        this.targets = targets;
        this.sticks = sticks;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.STICK;
    }

    @Override
    public Class<StickOrder> orderType() {
        return StickOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, StickOrder order) {
        List<DeviceClaim> out = new ArrayList<>(List.of(claims.overwriting(order.target(), order.targetName())));
        order.liesOn().forEach(serial -> out.add(DeviceClaim.read(Device.ofSerial(serial, order.where()))));
        return out;
    }

    @Override
    public String perform(LiveRun running, StickOrder order, Passphrase none) throws IOException {
        if (order.expected() != null && !order.expected().isEmpty()
            && !overwriting.digestRaw(order.fileId(), running).equals(order.expected())) {
            throw Fault.of(Fault.Kind.DAMAGED, order.fileId(), order.fileId() + " is not what was kept of the stick any more: its SHA-256 "
                + "differs. Nothing was written. Keep the stick's image anew.").asException();
        }
        targets.requireStillFree(order.target(), Set.copyOf(order.liesOn()));
        sticks.findByPendingRun(running.run().id()).ifPresent(stick -> {
            stick.touched();
            sticks.save(stick);
        });
        RestoreOutcome outcome = overwriting.writeRaw(order.fileId(), order.target(), running);
        if (!outcome.differences().isEmpty()) {
            throw Fault.of(Fault.Kind.DAMAGED, order.fileId(), outcome.differences().get(0).message()).asException();
        }
        return order.fileId() + " was written onto the stick with serial " + order.target().identity().serial()
            + ", read back and equal. Start a computer with it once, and note which.";
    }

    @Override
    public void ended(Run run, Took took) {
        sticks.findByPendingRun(run.id()).ifPresent(stick -> {
            stick.ended(run.state() == Run.State.DONE);
            sticks.save(stick);
        });
    }
}
