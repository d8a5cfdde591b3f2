package app.granary.server.run;

import app.granary.core.measure.Durations;
import app.granary.core.measure.Sizes;
import app.granary.server.journal.JournalEnds;
import app.granary.server.mail.Outbox;
import app.granary.server.office.OfficeChoices;
import app.granary.server.plan.Plans;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunEnds;
import app.granary.server.queue.RunRecords;
import app.granary.server.office.OfficeDays;
import app.granary.core.measure.Moments;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** One mail a night, when its last run has ended: what was made, what was not and why. */
@Component
public class NightMail {
    private static final long LOOK_EVERY_MILLIS = 600_000;
    /** A mail that comes later than this helps nobody. */
    private static final int LATE_DAYS = 7;

    private final RunRecords records;
    private final Plans plans;
    private final Outbox outbox;
    private final OfficeChoices office;
    private final OfficeDays days;
    private final NightsMailed sent;
    private final JournalEnds ends;
    private final Clock clock;

    NightMail(RunRecords records, Plans plans, Outbox outbox, OfficeChoices office, OfficeDays days, NightsMailed sent, JournalEnds ends,
        Clock clock) {
        this.ends = ends;
        this.days = days;
        this.sent = sent;
        this.clock = clock;
        this.records = records;
        this.plans = plans;
        this.outbox = outbox;
        this.office = office;
    }

    @EventListener
    void ended(RunEnds.Ended ended) {
        if (ended.run().night() != null) {
            send(ended.run().night());
        }
    }

    /**
     * A night that was cut short, by a fall of power or because Granary was ended, gets its mail when it is over: until then it may be
     * begun again.
     */
    @Scheduled(initialDelay = LOOK_EVERY_MILLIS, fixedDelay = LOOK_EVERY_MILLIS)
    void look() {
        LocalDate now = days.days().calendar().nightOf(clock.instant());
        records.nightsSince(now.minusDays(LATE_DAYS)).stream().filter(night -> night.isBefore(now)).forEach(this::send);
    }

    /** Writes the mail of a night whose runs have all ended; a second time does nothing. */
    public synchronized void send(LocalDate night) {
        List<Run> tries = records.ofNight(night);
        if (tries.stream().anyMatch(run -> run.state() == Run.State.QUEUED || run.state() == Run.State.RUNNING) || sent.isSent(night)) {
            return;
        }
        List<Run> all = last(tries);
        TreeSet<String> to = new TreeSet<>();
        plans.all().stream().filter(saved -> all.stream().anyMatch(run -> saved.id().equals(run.planId())))
            .forEach(saved -> to.addAll(saved.plan().mailTo()));
        Optional.of(office.choices().mailTo()).filter(address -> !address.isEmpty()).ifPresent(to::add);
        if (!to.isEmpty()) {
            sent.note(night, clock.instant());
            outbox.send(List.copyOf(to), subject(night, all), text(all) + ends.inWords().map(each -> "\n" + each + "\n").orElse(""));
        }
    }

    /** Of each plan's tries the last: one that was stopped and begun again is made, or is not, once. */
    static List<Run> last(List<Run> tries) {
        Map<Object, Run> byPlan = new LinkedHashMap<>();
        tries.forEach(run -> byPlan.merge(run.planId() == null ? run.diskId() : run.planId(), run,
            (before, later) -> before.state() == Run.State.DONE ? before : later));
        return List.copyOf(byPlan.values());
    }

    /** The outcome first: it may be all that is read. */
    static String subject(LocalDate night, List<Run> runs) {
        long made = runs.stream().filter(run -> run.state() == Run.State.DONE).count();
        String day = Moments.day(night);
        return "Night of " + day + ": " + (made < runs.size() ? made + " of " + runs.size() + " images made"
            : made == 1 ? "the image was made" : made == 2 ? "both images made" : "all " + made + " images made");
    }

    /** What needs a person first. */
    static String text(List<Run> runs) {
        StringBuilder out = new StringBuilder();
        runs.stream().filter(run -> run.state() != Run.State.DONE)
            .forEach(run -> out.append("NOT MADE  ").append(run.subject()).append(" to ").append(run.destination()).append("\n  ")
                .append(run.outcome()).append("\n\n"));
        runs.stream().filter(run -> run.state() == Run.State.DONE)
            .forEach(run -> out.append("Made  ").append(run.imageName()).append(" on ").append(run.destination()).append(", ")
                .append(Sizes.decimal(run.storedBytes())).append(" in ")
                .append(Durations.length(Duration.between(run.begunAt(), run.endedAt()).toSeconds())).append(", read back and sound\n"));
        return out.toString();
    }
}
