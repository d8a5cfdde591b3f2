package app.granary.server.capture;

import app.granary.core.night.Span;
import app.granary.core.plan.Plan;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/**
 * A plan's computer that is started from rescue media may be started late: its capture waits for it, to the end of its window. Work that
 * was asked for by hand is refused at once when its disk is not there.
 */
@Component
public class PlanWaits {
    private final Plans plans;
    private final DisksOnRecord disks;
    private final OfficeDays office;
    private final Clock clock;

    public PlanWaits(Plans plans, DisksOnRecord disks, OfficeDays office, Clock clock) {
        this.plans = plans;
        this.disks = disks;
        this.office = office;
        this.clock = clock;
    }

    /**
     * What a run of a night waits for, as a sentence; an empty string for nothing.
     *
     * @throws Refused when its window is over
     */
    String of(Run run) {
        if (run.night() == null || disks.find(run.diskId()).map(DisksOnRecord.DiskOnRecord::attached).orElse(true)) {
            return "";
        }
        Optional<Plan> plan = plans.all().stream().filter(saved -> saved.id().equals(run.planId())).map(Plans.Saved::plan)
            .filter(Plan::booted).findFirst();
        if (plan.isEmpty()) {
            return "";
        }
        Optional<Instant> end = plan.get().window().on(run.night(), office.days().calendar()).map(Span::to);
        if (end.isPresent() && !clock.instant().isBefore(end.get())) {
            throw new Refused(HttpStatus.CONFLICT, "not-started", "", run.computer()
                + " was not started from rescue media before the end of its window.");
        }
        return "It waits until " + run.computer() + " is started from rescue media and its disk is at hand; then it begins by itself.";
    }
}
