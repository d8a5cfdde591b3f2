package app.granary.server.capture;

import app.granary.core.plan.Plan;
import app.granary.engine.host.Storage;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.StorageChoice;
import app.granary.server.image.Images;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Runs a plan at once, whatever its days and hours are, onto the first of its drives in their order that takes the image. */
@Service
class PlanRuns {
    private final Plans plans;
    private final Images images;
    private final Preflights preflights;
    private final Captures captures;

    PlanRuns(Plans plans, Images images, Preflights preflights, Captures captures) {
        this.plans = plans;
        this.images = images;
        this.preflights = preflights;
        this.captures = captures;
    }

    /** Where one went. */
    record Begun(UUID runId, String destination) {
    }

    /** @throws Refused with the reason of each drive when none takes the image */
    Begun now(UUID planId, Passphrase passphrase, String who) throws IOException {
        Plans.Saved saved = plans.one(planId);
        Plan plan = saved.plan();
        if (plan.storing().encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase",
                plan.name() + " wants its image encrypted. Enter its passphrase.");
        }
        Storage storage = StorageChoice.of(plan).with(plan.storing().encrypted() ? passphrase : Passphrase.NONE);
        Set<String> why = new LinkedHashSet<>();
        for (String drive : plan.drivesInOrder(images.newestByDestination(plan.source().diskId()))) {
            Optional<Prospect> prospect = taken(plan, drive, storage, why);
            if (prospect.isPresent()) {
                String name = prospect.get().to(drive).destination().name();
                Run run = captures.queueNow(new Captures.Planned(saved.id(), plan.source().computer(), plan.source().diskId(),
                    plan.source().disk(), drive, name, storage, plan.storing().encrypted(), plan.naming().text(),
                    Captures.Then.of(plan), null), who);
                return new Begun(run.id(), name);
            }
        }
        throw new Refused(HttpStatus.CONFLICT, "unfit", "", why.isEmpty() ? plan.name() + " names no drive. Choose one in it."
            : String.join(" ", why));
    }

    private Optional<Prospect> taken(Plan plan, String drive, Storage storage, Set<String> why) throws IOException {
        try {
            return Optional.of(preflights.look(plan.source().diskId(), drive, storage, Preflights.Moment.ASKED));
        } catch (Refused refused) {
            why.add(refused.getMessage());
            return Optional.empty();
        }
    }
}
