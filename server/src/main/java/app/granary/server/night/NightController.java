package app.granary.server.night;

import app.granary.server.journal.Journal;
import app.granary.server.plan.Plans;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** One night: what runs, what does not fit and why, what is to be done before. */
@RestController
@RequestMapping("/api/v1/night")
class NightController {
    /** Nights further off are nobody's concern. */
    private static final int FURTHEST_DAYS = 400;

    private final Nights nights;
    private final Plans plans;
    private final NightPages pages;
    private final NightStarts starts;
    private final Journal journal;

    NightController(Nights nights, Plans plans, NightPages pages, NightStarts starts, Journal journal) {
        this.nights = nights;
        this.plans = plans;
        this.pages = pages;
        this.starts = starts;
        this.journal = journal;
    }

    @GetMapping
    NightPages.NightPage night(@RequestParam(required = false) LocalDate date) throws IOException {
        LocalDate tonight = nights.tonight();
        LocalDate wanted = date == null ? tonight : date;
        if (wanted.isBefore(tonight) || wanted.isAfter(tonight.plusDays(FURTHEST_DAYS))) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "date",
                "Only nights from tonight on, and within " + FURTHEST_DAYS + " days, can be planned. Choose another date.");
        }
        return pages.page(nights.plan(wanted), wanted.equals(tonight));
    }

    /**
     * @param start    by the office's clock, {@code "18:30"}; null when it may start whenever it fits
     * @param driveId  null when it may go to any drive of its plan
     * @param askedFor whether it runs though it is not due
     */
    record NightWish(@Schema(types = {
        "string", "null"}) String start, @Schema(types = {"string", "null"}) @Size(max = 200) String driveId, boolean leftOut,
        boolean askedFor){
    }

    @PutMapping("/{date}/plans/{planId}")
    NightPages.NightPage choose(@PathVariable LocalDate date, @PathVariable UUID planId, @Valid @RequestBody NightWish choice,
        Principal who) throws IOException {
        Plans.Saved plan = plans.one(planId);
        Instant start = choice.start() == null ? null : nights.calendar().moment(date, time(choice.start()));
        nights.choose(date, planId, start, choice.driveId(), choice.leftOut(), choice.askedFor());
        if (date.equals(nights.tonight())) {
            nights.promiseTonight();
        }
        String what = choice.leftOut() ? "is left out"
            : choice.start() != null ? "is pinned to " + choice.start() + (choice.driveId() == null ? "" : " on " + choice.driveId())
                : choice.driveId() != null ? "goes to " + choice.driveId()
                    : choice.askedFor() ? "runs though it is not due" : "runs as it fits";
        journal.add(who.getName(), "plan night", plan.plan().name(), Journal.Result.DONE,
            plan.plan().name() + " " + what + " on the night of " + date + ".");
        return night(date);
    }

    /**
     * @param passphrases by plan, for those whose images are encrypted
     */
    record NightStart(@NotNull @Size(max = 500) Map<UUID, @Size(max = 1000) String> passphrases) {
        @Override
        public String toString() {
            return "start of a night"; // never the passphrases
        }
    }

    /** Puts the night's images into the queue, each at its time. */
    @PostMapping("/{date}/start")
    NightPages.NightPage start(@PathVariable LocalDate date, @Valid @RequestBody NightStart start, Principal who) throws IOException {
        int count = starts.start(date, start.passphrases(), who.getName());
        journal.add(who.getName(), "start night", "night of " + date, Journal.Result.BEGUN,
            who.getName() + " started the night of " + date + ": " + count + (count == 1 ? " image waits" : " images wait")
                + " for its time.");
        return night(date);
    }

    private static LocalTime time(String text) {
        try {
            return LocalTime.parse(text);
        } catch (DateTimeException wrong) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "start", "\"" + text + "\" is no time of day. Write it like 18:30.");
        }
    }

    record NightTicked(@NotNull UUID planId, @NotNull @Size(max = 300) String item, boolean done) {
    }

    @PutMapping("/{date}/ticks")
    NightPages.NightPage tick(@PathVariable LocalDate date, @Valid @RequestBody NightTicked tick, Principal who) throws IOException {
        Plans.Saved plan = plans.one(tick.planId());
        if (nights.tick(date, tick.planId(), tick.item(), tick.done(), who.getName())) {
            journal.add(who.getName(), "tick", plan.plan().name(), Journal.Result.NOTE,
                tick.item() + (tick.done() ? ": done" : ": not done after all") + ", for the night of " + date + ".");
        }
        return night(date);
    }
}
