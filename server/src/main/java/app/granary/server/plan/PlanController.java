package app.granary.server.plan;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.plan.Afterwards;
import app.granary.core.plan.Checklist;
import app.granary.core.plan.DueDates;
import app.granary.core.plan.FolderPattern;
import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import app.granary.core.plan.NamingPattern;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanLines;
import app.granary.core.plan.PlanReview;
import app.granary.core.plan.PlanSource;
import app.granary.core.plan.Rhythm;
import app.granary.core.plan.Storing;
import app.granary.core.plan.Window;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.computer.LastImages;
import app.granary.server.journal.Journal;
import app.granary.server.office.OfficeDays;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Plans: list, review, save, copy, pause. */
@RestController
@RequestMapping("/api/v1/plans")
class PlanController {
    /** Due nights shown ahead. */
    private static final int AHEAD = 4;
    private static final int USUAL_RECHECK_DAYS = 90;

    private final Plans plans;
    private final DisksOnRecord disks;
    private final LastImages images;
    private final OfficeDays office;
    private final Journal journal;
    private final Clock clock;

    PlanController(Plans plans, DisksOnRecord disks, LastImages images, OfficeDays office, Journal journal, Clock clock) {
        this.plans = plans;
        this.disks = disks;
        this.images = images;
        this.office = office;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * A plan in the list.
     *
     * @param due         the night its next image is due; null when only by hand
     * @param overdueDays days since it was due; 0 when it is not yet, or tonight
     * @param state       {@code "paused"}, {@code "by-hand"}, {@code "overdue"}, {@code "tonight"} or {@code "later"}
     * @param lastImageAt when the newest image of its disk was made; null when there is none
     */
    record PlanLine(UUID id, String name, String computer, String disk, String diskId, boolean diskThere, String often, String when,
        String drives, String kept, String state,
        @Schema(types = {
            "string", "null"}) LocalDate due,
        long overdueDays, @Schema(types = {"string", "null"}) Instant lastImageAt){
    }

    @GetMapping
    List<PlanLine> all() {
        LocalDate tonight = office.days().calendar().nightOf(clock.instant());
        Map<String, DisksOnRecord.DiskOnRecord> there = plans.disksById();
        Map<String, LastImages.LastImage> newest = images.newest();
        return plans.all().stream().map(saved -> line(saved, tonight, there, newest)).toList();
    }

    private PlanLine line(Plans.Saved saved, LocalDate tonight, Map<String, DisksOnRecord.DiskOnRecord> there,
        Map<String, LastImages.LastImage> newest) {
        Plan plan = saved.plan();
        LocalDate due = plans.due(saved).orElse(null);
        long overdue = due == null ? 0 : Math.max(0, ChronoUnit.DAYS.between(due, tonight));
        String state = saved.paused() ? "paused"
            : due == null ? "by-hand" : overdue > 0 ? "overdue" : due.equals(tonight) ? "tonight" : "later";
        LastImages.LastImage image = newest.get(plan.source().diskId());
        Map<String, String> lines = PlanLines.of(plan);
        return new PlanLine(saved.id(), plan.name(), plan.source().computer(), plan.source().disk(), plan.source().diskId(),
            there.containsKey(plan.source().diskId()), lines.get("How often"),
            lines.get("When"), lines.get("Drives"), lines.get("Kept"), state, due, overdue, image == null ? null : image.madeAt());
    }

    /** What is wrong with one field. */
    record PlanObjection(String field, boolean refused, String sentence) {
    }

    /**
     * A plan read back.
     *
     * @param exampleName name its next image would have, were it made now
     * @param dueNights   the next nights it is due
     */
    record PlanReading(String sentence, List<PlanObjection> problems, String exampleName, List<LocalDate> dueNights) {
    }

    private PlanReading review(Plan plan, LocalDate madeOn) {
        PlanReview review = PlanReview.of(plan, clock.instant());
        LocalDate tonight = office.days().calendar().nightOf(clock.instant());
        return new PlanReading(review.sentence(),
            review.problems().stream().map(p -> new PlanObjection(p.field(), p.refused(), p.sentence())).toList(),
            plan.naming().name(plan.source().computer(), plan.source().disk(), clock.instant()),
            new DueDates(plan, madeOn, office.days().calendar()).from(tonight, AHEAD));
    }

    @PostMapping("/review")
    PlanReading review(@Valid @RequestBody PlanForm form) throws IOException {
        return review(plans.known(form), office.days().calendar().nightOf(clock.instant()));
    }

    /** @param changes what differed from before, line by line */
    record PlanChange(Instant at, String account, List<String> changes) {
    }

    /** @param version for If-Match */
    record PlanDetail(UUID id, PlanForm form, boolean paused, PlanLine line, PlanReading review, List<PlanChange> versions, long version) {
    }

    private PlanDetail detail(Plans.Saved saved) {
        PlanLine line = line(saved, office.days().calendar().nightOf(clock.instant()), plans.disksById(), images.newest());
        return new PlanDetail(saved.id(), PlanForm.of(saved.plan()), saved.paused(), line, review(saved.plan(), saved.madeOn()),
            plans.versionsOf(saved.id()).stream().map(v -> new PlanChange(v.at(), v.account(), v.changes())).toList(), saved.version());
    }

    @GetMapping("/{id}")
    PlanDetail one(@PathVariable UUID id) {
        return detail(plans.one(id));
    }

    /**
     * What a new plan of a disk begins with: no drive is chosen, nothing repeats by itself, nothing is left out but page files and swap.
     */
    @GetMapping("/proposal")
    PlanForm proposal(@RequestParam String diskId) {
        DisksOnRecord.DiskOnRecord disk = disks.find(diskId).orElseThrow(() -> Refused.notFound("disk"));
        DiskIdentity identity = disk.identity();
        return PlanForm.of(new Plan(free(disk.computer() + ", " + disk.name()),
            PlanSource.of(disk.id(), disk.computer(), disk.name(), identity, List.of()),
            new Storing("zstd", 3, OptionalLong.empty(), false, false, false), List.of(), false, new Rhythm.ByHand(),
            new Window(office.days().calendar().closes(), office.days().calendar().opens().minusHours(1)), true, NamingPattern.USUAL,
                FolderPattern.NONE,
            USUAL_RECHECK_DAYS, Afterwards.NOTHING, List.of(), new Keeping(Keep.ALL, 0, 0, 1, true, false),
            Checklist.proposed(disk.encrypted(), disk.controller()), ""));
    }

    private String free(String name) {
        String out = name;
        for (int i = 2; plans.named(out).isPresent(); i++) {
            out = name + " " + i;
        }
        return out;
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    PlanDetail make(@Valid @RequestBody PlanForm form, Principal who) throws IOException {
        Plans.Saved made = plans.make(form, who.getName());
        PlanDetail detail = detail(made);
        journal.add(who.getName(), "make plan", made.plan().name(), Journal.Result.DONE, detail.review().sentence());
        return detail;
    }

    @PutMapping("/{id}")
    PlanDetail change(@PathVariable UUID id, @RequestHeader("If-Match") String version, @Valid @RequestBody PlanForm form, Principal who)
        throws IOException {
        long before = plans.one(id).version();
        Plans.Saved changed = plans.change(id, IfMatch.version(version), form, who.getName());
        PlanDetail detail = detail(changed);
        if (changed.version() != before) {
            journal.add(who.getName(), "change plan", changed.plan().name(), Journal.Result.DONE,
                String.join("; ", detail.versions().get(0).changes()) + ".");
        }
        return detail;
    }

    record PlanPause(boolean paused) {
    }

    @PostMapping("/{id}/pause")
    PlanDetail pause(@PathVariable UUID id, @RequestBody PlanPause pause, Principal who) {
        Plans.Saved saved = plans.pause(id, pause.paused(), who.getName());
        journal.add(who.getName(), pause.paused() ? "pause plan" : "take up plan", saved.plan().name(), Journal.Result.DONE,
            saved.plan().name() + (pause.paused() ? " is paused." : " runs again."));
        return detail(saved);
    }

    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable UUID id, Principal who) {
        Plans.Saved removed = plans.remove(id, who.getName());
        journal.add(who.getName(), "remove plan", removed.plan().name(), Journal.Result.DONE,
            removed.plan().name() + " was removed. Its images stay. It was: "
                + PlanReview.of(removed.plan(), clock.instant()).sentence());
    }

    record PlanCopy(@NotNull String diskId) {
    }

    /** The same plan for another disk, saved under a name of that disk. */
    @PostMapping("/{id}/copies")
    @ResponseStatus(HttpStatus.CREATED)
    PlanDetail copy(@PathVariable UUID id, @Valid @RequestBody PlanCopy copy, Principal who) throws IOException {
        Plan from = plans.one(id).plan();
        DisksOnRecord.DiskOnRecord disk = disks.find(copy.diskId()).orElseThrow(() -> Refused.notFound("disk"));
        return make(PlanForm.of(from.copyTo(free(disk.computer() + ", " + disk.name()),
            PlanSource.of(disk.id(), disk.computer(), disk.name(), disk.identity(), List.of()))), who);
    }
}
