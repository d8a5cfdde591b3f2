package app.granary.server.target;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.measure.Sizes;
import app.granary.core.target.Preparation;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Overwriting;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Work;
import java.io.IOException;
import java.security.SecureRandom;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Makes a drive ready to take images. */
@Component
class PreparationWork implements Work<PreparationOrder> {
    private final Overwriting overwriting;
    private final OfficeClaims claims;
    private final Targets targets;

    PreparationWork(Overwriting overwriting, OfficeClaims claims, Targets targets) {
        this.overwriting = overwriting;
        this.claims = claims;
        this.targets = targets;
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.PREPARE;
    }

    @Override
    public Class<PreparationOrder> orderType() {
        return PreparationOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, PreparationOrder order) {
        return List.of(claims.overwriting(order.target(), order.how().name()));
    }

    @Override
    public String perform(LiveRun running, PreparationOrder order, Passphrase none) throws IOException {
        Preparation how = order.how();
        targets.requireStillFree(order.target(), Set.of());
        overwriting.prepare(how, order.target(), new SecureRandom(), running);
        return how.name() + " is ready: a new " + how.scheme()
            + (how.rescueBytes() > 0 ? ", a rescue partition of " + Sizes.decimal(how.rescueBytes()) : "") + " and an "
            + how.fileSystem().word()
            + " store on the drive with serial " + order.target().identity().serial()
            + ". Attach it as a destination, and say where it lies.";
    }
}
