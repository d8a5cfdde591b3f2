package app.granary.server.today;

import app.granary.core.plan.OfficeCalendar;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import app.granary.server.run.Troubles;
import app.granary.server.run.UnfinishedController;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The morning's page. */
@RestController
@RequestMapping("/api/v1/today")
class TodayController {
    private static final Duration ANSWERED_FOR = Duration.ofHours(36);

    private final UnfinishedController unfinished;
    private final Troubles troubles;
    private final Images images;
    private final DisksOnRecord disks;
    private final Plans plans;
    private final OfficeDays office;
    private final Clock clock;

    TodayController(UnfinishedController unfinished, Troubles troubles, Images images, DisksOnRecord disks, Plans plans, OfficeDays office, Clock clock) {
        this.unfinished = unfinished;
        this.troubles = troubles;
        this.images = images;
        this.disks = disks;
        this.plans = plans;
        this.office = office;
        this.clock = clock;
    }

    /**
     * Something that needs a person.
     *
     * @param kind   "unfinished", "damaged", "failed", "waiting" or "overdue"
     * @param title  what it is about
     * @param reason why, and what to do
     * @param to     the page it is done on
     */
    record Todo(String kind, String title, String reason, String to) {
    }

    /**
     * A disk and what there is of it.
     *
     * @param newest when its newest image that is not damaged was made; null without one
     * @param due    the night its plan wants the next one; null without a plan
     * @param state  "covered", "due", "late", "never" or "unplanned"
     */
    record Cover(String computer, String disk, String diskId, @Schema(types = {"string", "null"}) Instant newest, int proof, boolean stale, String lies, @Schema(types = {"string", "null"}) LocalDate due,
                 String state, String words) {
    }

    record Today(String sentence, List<Todo> todos, List<UnfinishedController.UnfinishedLine> unfinished, List<Cover> cover) {
    }

    @GetMapping
    Today today() throws IOException {
        List<UnfinishedController.UnfinishedLine> left = unfinished.all();
        List<Images.Standings> standings = images.standings();
        List<Todo> todos = new ArrayList<>();
        left.forEach(each -> todos.add(new Todo("unfinished", each.disk() + ": " + each.name() + " is not finished", (each.why().isEmpty() ? "A capture did not come to its end." : each.why())
            + " " + Math.round(each.doneShare() * 100) + " % of the disk is there.", "/runs")));
        standings.stream().filter(image -> image.standing().damaged()).forEach(image -> todos.add(new Todo("damaged", image.name() + " on " + image.destination() + " is damaged",
            "Its last check found damage. Mend it from a sound copy if there is one, or capture " + image.computer() + " again.", "/images/" + image.id())));
        troubles.since(clock.instant().minus(ANSWERED_FOR)).stream().filter(run -> left.stream().noneMatch(each -> each.name().equals(run.imageName()))).forEach(run -> todos.add(new Todo(
            run.waits() ? "waiting" : "failed", run.subject() + (run.waits() ? " waits for its passphrase" : ": the " + run.kind() + " failed"), run.outcome(), "/runs")));
        List<Cover> cover = cover(standings);
        cover.stream().filter(each -> each.state.equals("late")).forEach(each -> todos.add(new Todo("overdue", each.computer + " " + each.disk + " is late", each.words, "/night")));
        return new Today(sentence(cover, todos), todos, left, cover);
    }

    private List<Cover> cover(List<Images.Standings> standings) {
        Map<String, List<Images.Standings>> byDisk = standings.stream().filter(image -> !image.standing().damaged() && !image.paper()).collect(Collectors.groupingBy(Images.Standings::diskId));
        Map<String, List<Plans.Saved>> planned = plans.all().stream().filter(saved -> !saved.paused()).collect(Collectors.groupingBy(saved -> saved.plan().source().diskId()));
        OfficeCalendar calendar = office.days().calendar();
        LocalDate tonight = calendar.nightOf(clock.instant());
        return disks.all().stream().sorted(Comparator.comparing(DisksOnRecord.DiskOnRecord::computer).thenComparing(DisksOnRecord.DiskOnRecord::name)).map(disk -> {
            Optional<Images.Standings> newest = byDisk.getOrDefault(disk.id(), List.of()).stream().findFirst();
            Optional<LocalDate> due = planned.getOrDefault(disk.id(), List.of()).stream().flatMap(saved -> plans.due(saved).stream()).min(Comparator.naturalOrder());
            return line(disk, newest, due, !planned.containsKey(disk.id()), tonight);
        }).toList();
    }

    private Cover line(DisksOnRecord.DiskOnRecord disk, Optional<Images.Standings> newest, Optional<LocalDate> due, boolean unplanned, LocalDate tonight) {
        long late = due.map(day -> ChronoUnit.DAYS.between(day, tonight)).orElse(-1L);
        String state = late > 0 ? "late" : newest.isEmpty() ? "never" : late == 0 ? "due" : unplanned ? "unplanned" : "covered";
        String words = switch (state) {
            case "late" -> "due " + late + (late == 1 ? " day" : " days") + " ago" + (newest.isEmpty() ? ", and there is no image yet" : "");
            case "never" -> "no image yet" + (late == 0 ? ", due tonight" : unplanned ? ", and no plan" : "");
            case "due" -> "due tonight";
            case "unplanned" -> "no plan says when the next is due";
            default -> due.map(day -> "next due in " + ChronoUnit.DAYS.between(tonight, day) + " days").orElse("only when asked for");
        };
        return new Cover(disk.computer(), disk.name(), disk.id(), newest.map(Images.Standings::madeAt).orElse(null), newest.flatMap(image -> image.standing().level()).map(level -> level.ordinal() + 1).orElse(0),
            newest.map(image -> image.standing().stale(clock.instant())).orElse(false), newest.map(Images.Standings::destination).orElse(""), due.orElse(null), state, words);
    }

    private static String sentence(List<Cover> cover, List<Todo> todos) {
        long covered = cover.stream().filter(each -> each.newest != null && !each.state.equals("late")).count();
        return (todos.isEmpty() ? "Nothing needs you. " : todos.size() == 1 ? "One thing needs you. " : todos.size() + " things need you. ") + covered + " of " + cover.size() + " disks covered; "
            + cover.stream().filter(each -> each.state.equals("due") || each.words.endsWith("due tonight")).count() + " due tonight.";
    }
}
