package app.granary.server.night;

import app.granary.core.measure.Durations;
import app.granary.core.night.Help;
import app.granary.core.night.Night;
import app.granary.core.plan.OfficeCalendar;
import app.granary.server.home.Pace;
import app.granary.server.plan.Plans;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import app.granary.core.measure.Moments;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Draws a planned night up for the screen. */
@Component
class NightPages {

    private final Nights nights;
    private final Pace pace;
    private final NightStarts starts;

    NightPages(Nights nights, Pace pace, NightStarts starts) {
        this.nights = nights;
        this.starts = starts;
        this.pace = pace;
    }

    /**
     * A night on its strip.
     *
     * @param tonight   whether it is the one that is now, or comes next
     * @param stripFrom where the strip begins, {@code stripTo} where it ends
     * @param begins    nothing starts earlier
     * @param started   whether all its images wait in the queue or run; of some of them see {@link NightRow#queued}
     * @param paceNote  what to know of simulated devices; empty when they are real
     */
    record NightPage(LocalDate date, boolean tonight, String title, String sentence, String zone, Instant stripFrom, Instant stripTo,
        Instant begins, Instant closes, Instant opens, List<NightRow> rows,
        List<NightMisfit> misfits, List<NightIdle> notRun, List<NightDriveLine> drives, List<NightTodo> todos, String paceNote,
        boolean started) {
    }

    /**
     * @param bootAt      when a person boots its computer; null when nobody needs to for this row
     * @param hereSince   since when its computer is here by its agent; null when it is not
     * @param capturedAt  likely end of capturing, when reading back begins
     * @param latestEnd   it has ended by then 19 times in 20
     * @param overdueDays days past its due date; 0 when it is due that night
     * @param queued      whether it waits in the queue or runs
     */
    record NightRow(UUID planId, String plan, String computer, String disk, String diskId, String driveId, String drive, @Schema(types = {
        "string", "null"}) Instant bootAt,
        @Schema(types = {"string", "null"}) Instant hereSince, Instant start, Instant capturedAt,
        Instant end, Instant latestEnd, Instant windowFrom, Instant windowTo, String slack, String chance, boolean pinned,
        boolean pinnedDrive, long overdueDays, boolean encrypted, boolean queued, String because, Working working){
    }

    /** @param help the one change that would make it fit; null when no single one would */
    record NightMisfit(UUID planId, String plan, String computer, String disk, String why, @Schema(types = {
        "object", "null"}) HelpLine help, @Schema(types = {"string", "null"}) Instant windowFrom,
        @Schema(types = {"string", "null"}) Instant windowTo, boolean pinned, long overdueDays){
    }

    /** @param target the drive or plan it concerns; an empty string where it concerns none */
    record HelpLine(String kind, String target, String sentence) {
    }

    /** @param leftOut whether a person left it out though it is due; otherwise it is not due, or paused */
    record NightIdle(UUID planId, String plan, boolean leftOut, boolean paused, @Schema(types = {
        "string", "null"}) LocalDate due){
    }

    record NightDriveLine(String id, String name) {
    }

    /**
     * Something to do before going home.
     *
     * @param at   when; null for any time before
     * @param done who did it and when, in words; an empty string while nobody has
     */
    record NightTodo(UUID planId, String plan, String item, @Schema(types = {
        "string", "null"}) Instant at, String done){
    }

    NightPage page(Nights.Planned planned, boolean tonight) {
        OfficeCalendar calendar = planned.calendar();
        Night night = planned.night();
        Set<UUID> queued = starts.queued(planned.date());
        List<NightRow> rows = night.rows().stream().map(row -> row(row, planned, queued)).toList();
        List<NightMisfit> misfits = night.misfits().stream().map(misfit -> misfit(misfit, planned)).toList();
        Instant closes = calendar.closing(planned.date());
        Instant opens = calendar.opening(planned.date().plusDays(1));
        Instant from = rows.stream().map(NightRow::start).min(Comparator.naturalOrder())
            .filter(start -> start.isBefore(closes.minusSeconds(3600))).orElse(closes.minusSeconds(3600));
        Instant earliest = from.isBefore(planned.begins()) ? planned.begins() : from;
        Instant last = rows.stream().map(NightRow::latestEnd).max(Comparator.naturalOrder()).filter(end -> end.isAfter(opens))
            .orElse(opens);
        String paceNote = pace.times() == 1 ? ""
            : String.format(Locale.ROOT, "Simulated devices work %.0f times as fast as this clock", pace.times());
        return new NightPage(planned.date(), tonight, title(planned.date(), tonight), night.sentence(calendar.zone()),
            calendar.zone().getId(), earliest, last, planned.begins(), closes, opens, rows, misfits,
            planned.notRun().stream()
                .map(idle -> new NightIdle(idle.plan().id(), idle.plan().plan().name(), idle.leftOut(), idle.plan().paused(),
                    idle.due().orElse(null)))
                .toList(),
            planned.drives().stream().map(drive -> new NightDriveLine(drive.id(), drive.name())).toList(), todos(planned), paceNote,
            !rows.isEmpty() && rows.stream().allMatch(NightRow::queued));
    }

    private static String title(LocalDate date, boolean tonight) {
        return tonight ? "Tonight, " + day(date) + " to " + day(date.plusDays(1))
            : day(date) + " night, " + date.getDayOfMonth() + " " + date.getMonth().getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }

    private static String day(LocalDate date) {
        return date.getDayOfWeek().getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }

    private NightRow row(Night.Row row, Nights.Planned planned, Set<UUID> queued) {
        NightTasks.Reckoned reckoned = planned.reckoned().get(row.task().id());
        long length = row.end().getEpochSecond() - row.start().getEpochSecond();
        Instant captured = row.end().minusSeconds(Math.round(length * reckoned.times().get(row.drive().id()).readBackShare()));
        Instant windowFrom = row.task().windows().stream().filter(w -> w.to().equals(row.windowEnd())).findFirst().orElseThrow().from();
        return new NightRow(reckoned.plan().id(), reckoned.plan().plan().name(), reckoned.plan().plan().source().computer(),
            reckoned.plan().plan().source().disk(), reckoned.plan().plan().source().diskId(),
            row.drive().id(), row.drive().name(), row.bootAt().orElse(null), reckoned.booted().orElse(null), row.start(), captured,
            row.end(), row.latestEnd(), windowFrom,
            row.windowEnd(),
            Durations.length(Math.max(0, row.slack().toSeconds())), NightWorkings.chance(row.chance()),
            row.task().pin().start().isPresent(), row.task().pin().driveId().isPresent(),
            row.task().overdue().toDays(), reckoned.plan().plan().storing().encrypted(), queued.contains(reckoned.plan().id()),
            row.because(),
            NightWorkings.row(row, reckoned, planned.calendar().zone(), pace.times()));
    }

    private static NightMisfit misfit(Night.Misfit misfit, Nights.Planned planned) {
        Plans.Saved plan = planned.reckoned().get(misfit.task().id()).plan();
        Help help = misfit.help().orElse(null);
        var window = misfit.task().windows().stream().findFirst();
        return new NightMisfit(plan.id(), plan.plan().name(), plan.plan().source().computer(), plan.plan().source().disk(), misfit.why(),
            help == null ? null : new HelpLine(help.kind().word(), help.target(), help.sentence()), window.map(w -> w.from()).orElse(null),
            window.map(w -> w.to()).orElse(null),
            misfit.task().pin().start().isPresent(), misfit.task().overdue().toDays());
    }

    private List<NightTodo> todos(Nights.Planned planned) {
        Map<String, String> done = new HashMap<>();
        nights.ticksOf(planned.date()).forEach(
            tick -> done.put(tick.planId() + tick.item(), tick.account() + ", " + Moments.clock(tick.at(), planned.calendar().zone())));
        List<NightTodo> out = new ArrayList<>();
        for (Night.Row row : planned.night().rows()) {
            NightTasks.Reckoned reckoned = planned.reckoned().get(row.task().id());
            Plans.Saved plan = reckoned.plan();
            boolean here = plan.plan().booted() && reckoned.booted().isPresent();
            if (here || row.bootAt().isPresent()) {
                String item = "Boot " + plan.plan().source().computer() + " from rescue media"
                    + (reckoned.bootKey().isEmpty() ? "" : " (" + reckoned.bootKey() + ")");
                String by = here ? "here, by its agent, since " + Moments.clock(reckoned.booted().get(), planned.calendar().zone()) : "";
                out.add(new NightTodo(plan.id(), plan.plan().name(), item, row.bootAt().orElse(null),
                    by.isEmpty() ? done.getOrDefault(plan.id() + item, "") : by));
            }
            plan.plan().checklist().forEach(
                item -> out.add(new NightTodo(plan.id(), plan.plan().name(), item, null, done.getOrDefault(plan.id() + item, ""))));
        }
        return out;
    }
}
