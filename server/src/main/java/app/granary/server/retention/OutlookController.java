package app.granary.server.retention;

import app.granary.core.destination.Destination;
import app.granary.core.measure.Sizes;
import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import app.granary.core.retention.RetentionPolicy;
import app.granary.core.retention.WhatIf;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import app.granary.core.measure.Moments;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The coming year, with the rules as they are or as they might be. */
@RestController
@RequestMapping("/api/v1/retention/outlook")
class OutlookController {

    private final Outlooks outlooks;

    OutlookController(Outlooks outlooks) {
        this.outlooks = outlooks;
    }

    record OutlookPoint(LocalDate day, int images, long bytes) {
    }

    /**
     * @param refuses  the day it will first refuse an image; null when it will not within a year
     * @param sentence the same in words
     * @param advice   what would change it; empty when nothing need
     */
    record DestinationOutlook(String id, String name, long capacityBytes, long freeBytes, List<OutlookPoint> points, @Schema(types = {
        "string", "null"}) LocalDate refuses, String sentence,
        List<String> advice){
    }

    /**
     * @param policy    the rule that was tried on every disk, as a sentence; an empty string for each one's own
     * @param uncounted plans whose disk has no image yet to go by
     */
    record OutlookPage(String policy, List<DestinationOutlook> destinations, List<String> uncounted) {
    }

    /** Without counts, by each disk's own rules; with any, by those for every disk. */
    @GetMapping
    OutlookPage year(@RequestParam(required = false) Integer last, @RequestParam(required = false) Integer daily,
        @RequestParam(required = false) Integer weekly,
        @RequestParam(required = false) Integer monthly, @RequestParam(required = false) Integer yearly,
        @RequestParam(required = false) Integer maximumDays) throws IOException {
        Optional<RetentionPolicy> trial = trial(last, daily, weekly, monthly, yearly, maximumDays);
        Outlooks.Year year = outlooks.year(trial);
        List<DestinationOutlook> out = new ArrayList<>();
        for (int i = 0; i < year.destinations().size(); i++) {
            out.add(line(year.destinations().get(i), year.outlooks().get(i), year));
        }
        return new OutlookPage(trial.map(RetentionPolicy::words).orElse(""), out, year.uncounted());
    }

    private static Optional<RetentionPolicy> trial(Integer last, Integer daily, Integer weekly, Integer monthly, Integer yearly,
        Integer maximumDays) {
        if (last == null && daily == null && weekly == null && monthly == null && yearly == null && maximumDays == null) {
            return Optional.empty();
        }
        Keeping keeping = new Keeping(new Keep(or0(last), or0(daily), or0(weekly), or0(monthly), or0(yearly)), 0, or0(maximumDays), 1,
            false, false);
        if (!keeping.inRange()) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "last",
                "Counts are 0 to " + Keep.MOST + ", days 0 to " + RetentionPolicy.MOST_DAYS + ". Correct the number that is not.");
        }
        return Optional.of(keeping.policy());
    }

    private static int or0(Integer count) {
        return count == null ? 0 : count;
    }

    private static DestinationOutlook line(Destination d, WhatIf.Outlook outlook, Outlooks.Year year) {
        List<WhatIf.Point> points = outlook.points();
        String sentence = outlook.refusal()
            .map(r -> "On " + Moments.fullDay(r.day()) + " it will refuse " + r.label() + ", which needs " + Sizes.decimal(r.bytes())
                + " where " + Sizes.decimal(r.freeBytes())
                + " are free beyond the reserve.")
            .orElseGet(
                () -> "It takes every image of the coming year; " + points.get(points.size() - 1).images() + " lie there at its end.");
        return new DestinationOutlook(d.id(), d.name(), d.capacityBytes(), d.freeBytes(),
            points.stream().map(p -> new OutlookPoint(p.day(), p.images(), p.bytes())).toList(),
            outlook.refusal().map(WhatIf.Refusal::day).orElse(null), sentence,
            outlook.refusal().map(r -> advice(d, r, year)).orElse(List.of()));
    }

    private static List<String> advice(Destination d, WhatIf.Refusal refusal, Outlooks.Year year) {
        List<String> out = new ArrayList<>(List.of("Keep fewer: try other numbers above, and see how the line bends.",
            "Compress " + refusal.label() + " harder: its plan page shows what each codec would save."));
        for (int i = 0; i < year.destinations().size(); i++) {
            Destination other = year.destinations().get(i);
            if (!other.id().equals(d.id()) && year.outlooks().get(i).refusal().isEmpty()
                && other.freeBytes() - other.reserveBytes() > refusal.bytes() * 2) {
                out.add("Send it to " + other.name() + " instead, which has " + Sizes.decimal(other.freeBytes())
                    + " free and refuses nothing.");
                break;
            }
        }
        return out;
    }
}
