package app.granary.server.estimate;

import app.granary.server.image.Images;
import java.util.stream.Collectors;
import java.util.Set;
import java.util.Locale;
import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.TimeEstimate;
import app.granary.core.plan.NamingPattern;
import app.granary.engine.host.Storage;
import app.granary.server.problem.Refused;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.concurrent.Semaphore;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What an image of a disk would weigh, and every destination weighed against it. */
@RestController
@RequestMapping("/api/v1/estimates")
class EstimateController {
    static final int ASKING_AT_ONCE = 12;

    private final Prospects prospects;
    private final Samples samples;
    private final Images images;
    private final Clock clock;
    /** Of pages; a sample holds whoever asks until it is taken, and others are to be answered meanwhile. */
    private final Semaphore asking = new Semaphore(ASKING_AT_ONCE);

    EstimateController(Prospects prospects, Samples samples, Images images, Clock clock) {
        this.images = images;
        this.samples = samples;
        this.prospects = prospects;
        this.clock = clock;
    }

    record ProspectDetail(String diskId, String computer, String disk, long usedBytes, long sampledBytes, long lowBytes, long likelyBytes,
        long highBytes, String basis,
        String suggestedName, Working working, List<Weighed> destinations) {
    }

    /**
     * A destination against this image, on one scale with the others.
     *
     * @param ownBytes       written there already by a run of this disk, and counted as free for it; 0 or more
     * @param itself         whether it lies on the very disk, and cannot take its image
     * @param rollBack       whether it lies on the very disk, on a partition that is left out: for a quick roll-back image and nothing else
     * @param roomAfterBytes above the reserve; negative by how much it is short
     * @param refusals       sentences of the rules it breaks; empty when it is fit
     * @param refusedBy      the first rule it breaks, a word; an empty string when it is fit
     * @param route          which way the bytes go, a sentence; an empty string when disk and destination are in the office's own machine
     * @param fileLimitBytes longest file it takes; null when there is no limit
     */
    record Weighed(String id, String name, String place, long capacityBytes, long freeBytes, long promisedBytes, long ownBytes,
        long reserveBytes,
        @Schema(types = {
            "integer", "null"}) Long fileLimitBytes,
        boolean fit,
        boolean attached, boolean itself, boolean rollBack, int rank, long roomAfterBytes, List<String> refusals, String refusedBy,
            String route, Time time,
        Working working){
    }

    record Time(double lowSeconds, double highSeconds, String slowest, List<Stage> stages, Working working) {
        static Time from(TimeEstimate t, RunCorrection correction, boolean readTested) {
            return new Time(t.lowSeconds(), t.highSeconds(), t.slowest(),
                t.stages().stream().map(s -> new Stage(s.name(), s.seconds())).toList(), Workings.time(t, correction, readTested));
        }
    }

    record Stage(String name, double seconds) {
    }

    /** @param byClock times by the clock, as nights are planned, where made-up devices work faster */
    @GetMapping
    ProspectDetail estimate(@RequestParam String diskId, @RequestParam(defaultValue = "zstd") String codec,
        @RequestParam(required = false) Integer level,
        @RequestParam(required = false) Long splitBytes, @RequestParam(defaultValue = "false") boolean allBlocks,
        @RequestParam(defaultValue = "false") boolean keepSwap, @RequestParam(defaultValue = "") List<Integer> without,
        @RequestParam(defaultValue = "false") boolean encrypted, @RequestParam(defaultValue = "false") boolean byClock) throws IOException {
        Prospect prospect = sampled(diskId, StorageChoice.of(codec, level, splitBytes, allBlocks, keepSwap, without), encrypted);
        SizeEstimate size = prospect.size();
        Set<String> taken = images.standingsByDisk().getOrDefault(diskId, List.of()).stream()
            .map(each -> each.name().toLowerCase(Locale.ROOT))
            .collect(Collectors.toSet());
        String name = NamingPattern.free(
            NamingPattern.USUAL.name(prospect.source().computer().name(), prospect.source().disk().name(), clock.instant()),
            each -> taken.contains(each.toLowerCase(Locale.ROOT)));
        return new ProspectDetail(diskId, prospect.source().computer().name(), prospect.source().disk().name(), size.usedBytes(),
            size.sampledBytes(), size.lowBytes(),
            size.likelyBytes(), size.highBytes(), size.basis().word(), name,
            Workings.size(size, codec, prospect.storage().splitBytes()),
            prospect.assessments().stream().map(a -> weighed(prospect, a, byClock)).toList());
    }

    private Prospect sampled(String diskId, Storage storage, boolean encrypted) throws IOException {
        if (!asking.tryAcquire()) {
            throw new Refused(HttpStatus.SERVICE_UNAVAILABLE, "busy", "",
                "As many disks are being sampled as can be at once. Try again in a moment.");
        }
        try {
            return prospects.of(diskId, storage, encrypted);
        } finally {
            asking.release();
        }
    }

    /**
     * A sample being taken.
     *
     * @param mostBytes most of the disk that is read for it
     */
    record Sampling(String codec, int level, long doneBytes, long mostBytes) {
    }

    /** Samples of a disk that are being taken right now; empty when none is. */
    @GetMapping("/sampling")
    List<Sampling> sampling(@RequestParam String diskId) {
        return samples.underWay(diskId).stream().map(each -> new Sampling(each.storage().codec().word(), each.storage().level(),
            each.progress().doneBytes(), each.progress().totalBytes())).toList();
    }

    /** Ends them with what they have; the interval is the wider for it. */
    @PostMapping("/sampling/enough")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void enough(@RequestParam String diskId) {
        samples.enough(diskId);
    }

    private static String route(Prospect prospect, DestinationAssessment a) {
        boolean here = prospect.source().computer().machine().isOffice() && a.destination().machine().isOffice();
        return here || !a.destination().attached() ? "" : prospect.routeTo(a.destination()).sentence();
    }

    private static Weighed weighed(Prospect prospect, DestinationAssessment a, boolean byClock) {
        return new Weighed(a.destination().id(), a.destination().name(), a.destination().place(), a.destination().capacityBytes(),
            a.destination().freeBytes(),
            a.destination().promisedBytes(), a.destination().ownBytes(), a.destination().reserveBytes(),
                Working.orNull(a.destination().fileSizeLimitBytes()), a.fit(),
            a.destination().attached(),
            a.rules().stream().anyMatch(r -> r.rule().equals("not-itself") && !r.holds()), a.rollBack(), a.rank(), a.roomAfterBytes(),
            a.rules().stream().filter(r -> !r.holds()).map(RuleOutcome::sentence).toList(),
            a.rules().stream().filter(r -> !r.holds()).map(RuleOutcome::rule).findFirst().orElse(""),
            route(prospect, a),
            Time.from(byClock ? prospect.clockTimeTo(a.destination()) : prospect.timeTo(a.destination()),
                prospect.correction(a.destination()), prospect.estimate().readRateBytes().isPresent()),
            Workings.destination(a));
    }
}
