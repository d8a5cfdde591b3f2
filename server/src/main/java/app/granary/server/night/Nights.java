package app.granary.server.night;

import app.granary.core.destination.Destination;
import app.granary.core.night.Night;
import app.granary.core.night.NightDrive;
import app.granary.core.night.NightPlanner;
import app.granary.core.night.NightQuestion;
import app.granary.core.night.NightTask;
import app.granary.core.night.Span;
import app.granary.core.plan.OfficeCalendar;
import app.granary.server.destination.Destinations;
import app.granary.server.destination.Promises;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.transaction.annotation.Transactional;

/** Plans nights, and keeps what a person chose and ticked for each. */
@Service
class Nights {
    private static final long PROMISED_AFTER_MILLIS = 30_000;
    private static final long PROMISED_EVERY_MILLIS = 60_000;

    private final Plans plans;
    private final NightTasks tasks;
    private final Destinations destinations;
    private final Promises promises;
    private final OfficeDays office;
    private final NightChoiceRepository choices;
    private final NightTickRepository ticks;
    private final Clock clock;

    Nights(Plans plans, NightTasks tasks, Destinations destinations, Promises promises, OfficeDays office, NightChoiceRepository choices,
        NightTickRepository ticks, Clock clock) {
        this.plans = plans;
        this.tasks = tasks;
        this.destinations = destinations;
        this.promises = promises;
        this.office = office;
        this.choices = choices;
        this.ticks = ticks;
        this.clock = clock;
    }

    /**
     * A night with what it was planned from.
     *
     * @param begins   nothing starts earlier
     * @param reckoned by plan
     * @param notRun   plans that do not run: left out, or not due
     */
    record Planned(LocalDate date, OfficeCalendar calendar, Instant begins, Night night, Map<String, NightTasks.Reckoned> reckoned,
        List<NotRun> notRun, List<NightDrive> drives) {
    }

    /**
     * @param leftOut whether a person left it out, though it is due
     */
    record NotRun(Plans.Saved plan, Optional<LocalDate> due, boolean leftOut) {
    }

    OfficeCalendar calendar() {
        return office.days().calendar();
    }

    LocalDate tonight() {
        return office.days().calendar().nightOf(clock.instant());
    }

    Planned plan(LocalDate date) throws IOException {
        OfficeDays.Days days = office.days();
        OfficeCalendar calendar = days.calendar();
        LocalDate tonight = calendar.nightOf(clock.instant());
        Instant begins = later(clock.instant(), calendar.opening(date));
        Map<UUID, NightChoice> chosen = new HashMap<>();
        choices.findByNight(date).forEach(choice -> chosen.put(choice.planId(), choice));
        Map<String, NightTasks.Reckoned> reckoned = new HashMap<>();
        List<NotRun> notRun = new ArrayList<>();
        for (Plans.Saved saved : plans.all()) {
            Optional<LocalDate> due = plans.due(saved);
            NightChoice choice = chosen.get(saved.id());
            // of a later night it is taken that what is due before has run
            boolean isDue = !saved.paused() && due.isPresent()
                && (date.equals(tonight) ? !due.get().isAfter(date) : plans.dueOn(saved, date));
            boolean runs = choice != null && choice.askedFor() || isDue && (choice == null || !choice.leftOut());
            if (!runs) {
                notRun.add(new NotRun(saved, due, isDue));
                continue;
            }
            List<Span> windows = saved.plan().window().on(date, calendar).filter(window -> window.to().isAfter(begins)).map(List::of)
                .orElse(List.of());
            NightTask.Pin pin = choice == null ? NightTask.Pin.NONE
                : new NightTask.Pin(Optional.ofNullable(choice.pinnedStart()), Optional.ofNullable(choice.pinnedDrive()));
            Duration overdue = Duration
                .ofDays(date.equals(tonight) ? due.map(day -> Math.max(0, ChronoUnit.DAYS.between(day, tonight))).orElse(0L) : 0);
            NightTasks.Reckoned one = tasks.of(saved, overdue, windows, pin);
            reckoned.put(one.task().id(), one);
        }
        // what runs already is asked for again with the rest: its own promise is not in its way
        Set<String> asked = reckoned.values().stream().map(each -> each.plan().plan().source().diskId()).collect(Collectors.toSet());
        Drives drives = drives(asked);
        // a person is there on open days only, and not any more once the office has closed
        Instant closing = calendar.closing(date);
        List<Span> person = calendar.open(date) && begins.isBefore(closing) ? List.of(new Span(begins, closing)) : List.of();
        NightQuestion question = new NightQuestion(begins, reckoned.values().stream().map(NightTasks.Reckoned::task).toList(), drives.here,
            drives.away,
            person, days.perBoot(), days.lead(), calendar.zone());
        Night night = NightPlanner.plan(question);
        return new Planned(date, calendar, begins, night, reckoned, notRun, drives.here);
    }

    private record Drives(List<NightDrive> here, List<NightDrive> away) {
    }

    /** @param asked disks of the night: what their runs were promised already is there for them */
    private Drives drives(Set<String> asked) throws IOException {
        List<NightDrive> here = new ArrayList<>();
        List<NightDrive> away = new ArrayList<>();
        for (Destination each : destinations.now()) {
            (each.attached() ? here : away).add(new NightDrive(each.id(), each.name(),
                each.promising(promises.runningBytes(each.id(), asked)).holding(promises.ownBytes(each.id(), asked)).usableBytes(),
                    each.notes().sharedLink()));
        }
        return new Drives(here, away);
    }

    /**
     * Speaks for the room that tonight's plans will take, so that nothing by hand takes it first. Looking at a night does not: every
     * minute, and whenever a person chooses something for it.
     */
    @Scheduled(initialDelayString = "${granary.promised-after:" + PROMISED_AFTER_MILLIS + "}", fixedDelay = PROMISED_EVERY_MILLIS)
    void promiseTonight() throws IOException {
        Planned tonight = plan(tonight());
        Set<String> running = promises.runningDisks();
        promises.planTonight(tonight.night.rows().stream()
            .map(row -> new Promises.Tonight(row.drive().id(), tonight.reckoned.get(row.task().id()).plan().plan().source().diskId(),
                row.way().highBytes()))
            .filter(each -> !running.contains(each.diskId())).toList());
    }

    private static Instant later(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }

    /** See {@link NightChoice#choose}. */
    @Transactional
    public void choose(LocalDate date, UUID planId, Instant start, String driveId, boolean leftOut, boolean askedFor) {
        NightChoice choice = choices.findByNightAndPlanId(date, planId).orElseGet(() -> NightChoice.of(date, planId));
        choice.choose(start, driveId, leftOut, askedFor);
        choices.save(choice);
    }

    List<NightTick> ticksOf(LocalDate date) {
        return ticks.findByNight(date);
    }

    /** @return whether that changed anything */
    @Transactional
    public boolean tick(LocalDate date, UUID planId, String item, boolean done, String who) {
        Optional<NightTick> there = ticks.findByNightAndPlanIdAndItem(date, planId, item);
        if (done && there.isEmpty()) {
            ticks.save(new NightTick(date, planId, item, clock.instant(), who));
        } else if (!done) {
            there.ifPresent(ticks::delete);
        }
        return done == there.isEmpty();
    }
}
