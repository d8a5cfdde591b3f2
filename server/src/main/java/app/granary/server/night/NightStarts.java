package app.granary.server.night;

import app.granary.core.night.Night;
import app.granary.core.plan.Plan;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.estimate.StorageChoice;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import app.granary.server.capture.Captures;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Turns a planned night into runs that wait for their time. */
@Component
class NightStarts {
    private static final String BY = "Granary";

    private final Nights nights;
    private final Captures captures;

    NightStarts(Nights nights, Captures captures) {
        this.nights = nights;
        this.captures = captures;
    }

    /**
     * @param passphrases by plan
     * @return how many images wait
     */
    int start(LocalDate date, Map<UUID, String> passphrases, String who) throws IOException {
        if (!date.equals(nights.tonight())) {
            throw new Refused(HttpStatus.CONFLICT, "bad-choice", "date", "Only tonight can be started. Come back on the day.");
        }
        Nights.Planned planned = nights.plan(date);
        List<Captures.Planned> rows = new ArrayList<>();
        for (Night.Row row : planned.night().rows()) {
            Plans.Saved saved = planned.reckoned().get(row.task().id()).plan();
            Plan plan = saved.plan();
            String secret = passphrases.getOrDefault(saved.id(), "");
            if (plan.storing().encrypted() && secret.isEmpty()) {
                throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase",
                    plan.name() + " wants its image encrypted. Enter its passphrase, twice, or leave it out tonight.");
            }
            rows.add(planned(row, saved, plan.storing().encrypted() ? Passphrase.of(secret.toCharArray()) : Passphrase.NONE));
        }
        if (rows.isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "nothing-due", "",
                "Nothing runs that night, so there is nothing to start. See below why what is due does not fit.");
        }
        return captures.queueNight(date, rows, who);
    }

    /**
     * Starts what is due of computers that joined since, each at its time: whoever started one from rescue media has done what was to do.
     * What is encrypted waits for its passphrase.
     */
    void startThoseHere() throws IOException {
        LocalDate tonight = nights.tonight();
        Nights.Planned planned = nights.plan(tonight);
        for (Night.Row row : planned.night().rows()) {
            NightTasks.Reckoned reckoned = planned.reckoned().get(row.task().id());
            if (reckoned.plan().plan().booted() && reckoned.booted().isPresent()) {
                captures.queueOnce(tonight, planned(row, reckoned.plan(), Passphrase.NONE), BY);
            }
        }
    }

    private static Captures.Planned planned(Night.Row row, Plans.Saved saved, Passphrase passphrase) throws IOException {
        Plan plan = saved.plan();
        return new Captures.Planned(saved.id(), plan.source().computer(), plan.source().diskId(), plan.source().disk(),
            row.drive().id(), row.drive().name(), StorageChoice.of(plan).with(passphrase), plan.storing().encrypted(),
            plan.naming().text(), Captures.Then.of(plan), row.start());
    }

    /** The plans whose image of that night waits in the queue or is being made: started by a person, or because their computer is here. */
    Set<UUID> queued(LocalDate date) {
        return captures.plansOf(date);
    }
}
