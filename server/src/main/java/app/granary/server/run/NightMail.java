package app.granary.server.run;

import app.granary.core.measure.Durations;
import app.granary.core.measure.Sizes;
import app.granary.server.mail.Outbox;
import app.granary.server.office.OfficeChoices;
import app.granary.server.plan.Plans;
import java.time.Duration;
import java.time.LocalDate;
import java.time.format.TextStyle;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** One mail a night, when its last run has ended: what was made, what was not and why. */
@Component
class NightMail {
    private final RunRepository repository;
    private final Plans plans;
    private final Outbox outbox;
    private final OfficeChoices office;

    NightMail(RunRepository repository, Plans plans, Outbox outbox, OfficeChoices office) {
        this.repository = repository;
        this.plans = plans;
        this.outbox = outbox;
        this.office = office;
    }

    @EventListener
    void ended(RunQueue.Ended ended) {
        LocalDate night = ended.run().night();
        if (night == null) {
            return;
        }
        List<Run> all = repository.findByNightOrderByBegunAt(night);
        if (all.stream().anyMatch(run -> run.state() == Run.State.QUEUED || run.state() == Run.State.RUNNING)) {
            return;
        }
        TreeSet<String> to = new TreeSet<>();
        plans.all().stream().filter(saved -> all.stream().anyMatch(run -> saved.id().equals(run.planId()))).forEach(saved -> to.addAll(saved.plan().mailTo()));
        Optional.of(office.choices().mailTo()).filter(address -> !address.isEmpty()).ifPresent(to::add);
        if (!to.isEmpty()) {
            outbox.send(List.copyOf(to), subject(night, all), text(all));
        }
    }

    /** The outcome first: it may be all that is read. */
    static String subject(LocalDate night, List<Run> runs) {
        long made = runs.stream().filter(run -> run.state() == Run.State.DONE).count();
        String day = night.getDayOfWeek().getDisplayName(TextStyle.SHORT, Locale.ENGLISH) + " " + night.getDayOfMonth() + " " + night.getMonth().getDisplayName(TextStyle.SHORT, Locale.ENGLISH);
        return "Night of " + day + ": " + (made == runs.size() ? made == 1 ? "the image was made" : "all " + made + " images made" : made + " of " + runs.size() + " images made");
    }

    /** What needs a person first. */
    static String text(List<Run> runs) {
        StringBuilder out = new StringBuilder();
        runs.stream().filter(run -> run.state() != Run.State.DONE).forEach(run -> out.append("NOT MADE  ").append(run.subject()).append(" to ").append(run.destination()).append("\n  ")
            .append(run.outcome()).append("\n\n"));
        runs.stream().filter(run -> run.state() == Run.State.DONE).forEach(run -> out.append("Made  ").append(run.imageName()).append(" on ").append(run.destination()).append(", ")
            .append(Sizes.decimal(run.storedBytes())).append(" in ").append(Durations.length(Duration.between(run.begunAt(), run.endedAt()).toSeconds())).append(", read back and sound\n"));
        return out.toString();
    }
}
