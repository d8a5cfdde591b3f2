package app.granary.server.estimate;

import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.TimeEstimate;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What an image of a disk would weigh, and every destination weighed against it. */
@RestController
@RequestMapping("/api/v1/estimates")
class EstimateController {
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyyMMdd-HHmm'Z'").withZone(ZoneOffset.UTC);

    private final Prospects prospects;
    private final Clock clock;

    EstimateController(Prospects prospects, Clock clock) {
        this.prospects = prospects;
        this.clock = clock;
    }

    record Prospect(String diskId, String computer, String disk, long usedBytes, long sampledBytes, long lowBytes, long likelyBytes, long highBytes, String basis,
                    String suggestedName, Working working, List<Weighed> destinations) {
    }

    /**
     * A destination against this image, on one scale with the others.
     *
     * @param roomAfterBytes above the reserve; negative by how much it is short
     * @param refusals       sentences of the rules it breaks; empty when it is fit
     * @param fileLimitBytes longest file it takes; null when there is no limit
     */
    record Weighed(String id, String name, String place, long capacityBytes, long freeBytes, long promisedBytes, long reserveBytes, @Schema(types = {"integer", "null"}) Long fileLimitBytes, boolean fit,
                   boolean itself, int rank, long roomAfterBytes, List<String> refusals, Time time, Working working) {
    }

    record Time(double lowSeconds, double highSeconds, String slowest, List<Stage> stages, Working working) {
        static Time from(TimeEstimate t, RunCorrection correction) {
            return new Time(t.lowSeconds(), t.highSeconds(), t.slowest(), t.stages().stream().map(s -> new Stage(s.name(), s.seconds())).toList(), Workings.time(t, correction));
        }
    }

    record Stage(String name, double seconds) {
    }

    @GetMapping
    Prospect estimate(@RequestParam String diskId, @RequestParam(defaultValue = "zstd") String codec, @RequestParam(required = false) Integer level,
                      @RequestParam(required = false) Long splitBytes, @RequestParam(defaultValue = "false") boolean allBlocks,
                      @RequestParam(defaultValue = "false") boolean keepSwap) throws IOException {
        Prospects.Prospect prospect = prospects.of(diskId, StorageChoice.of(codec, level, splitBytes, allBlocks, keepSwap));
        SizeEstimate size = prospect.size();
        String name = (prospect.source().computer().name() + "-" + prospect.source().disk().name().replaceAll("[^A-Za-z0-9]+", "-")).replaceAll("-+$", "");
        return new Prospect(diskId, prospect.source().computer().name(), prospect.source().disk().name(), size.usedBytes(), size.sampledBytes(), size.lowBytes(),
            size.likelyBytes(), size.highBytes(), size.basis().word(), name.substring(0, Math.min(80, name.length())) + "-" + STAMP.format(clock.instant()),
            Workings.size(size, codec), prospect.assessments().stream().map(a -> weighed(prospect, a)).toList());
    }

    private static Weighed weighed(Prospects.Prospect prospect, DestinationAssessment a) {
        return new Weighed(a.destination().id(), a.destination().name(), a.destination().place(), a.destination().capacityBytes(), a.destination().freeBytes(),
            a.destination().promisedBytes(), a.destination().reserveBytes(), Working.orNull(a.destination().fileSizeLimitBytes()), a.fit(),
            a.rules().stream().anyMatch(r -> r.rule().equals("not-itself") && !r.holds()), a.rank(), a.roomAfterBytes(),
            a.rules().stream().filter(r -> !r.holds()).map(RuleOutcome::sentence).toList(), Time.from(prospect.timeTo(a.destination()), prospect.correction(a.destination())), Workings.destination(a));
    }
}
