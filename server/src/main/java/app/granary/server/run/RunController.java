package app.granary.server.run;

import app.granary.core.plan.Afterwards;
import app.granary.core.estimate.RunComparison;
import app.granary.core.plan.FolderPattern;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.host.Storage;
import app.granary.server.account.Accounts;
import app.granary.server.capture.CaptureTimes;
import app.granary.server.capture.Captures;
import app.granary.server.check.Checks;
import app.granary.server.copy.Copying;
import app.granary.server.estimate.StorageChoice;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Passphrases;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import app.granary.server.queue.RunRecords;
import app.granary.server.repair.Repairs;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.Authentication;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Runs: begin, watch, hold, stop. */
@RestController
@RequestMapping("/api/v1/runs")
class RunController {
    private static final int LISTED = 200;

    private final Runs runs;
    private final RunQueue queue;
    private final RunRecords records;
    private final Captures captures;
    private final Checks checks;
    private final Copying copying;
    private final Repairs repairs;
    private final CaptureTimes times;
    private final RunEvents events;
    private final LiveLines live;

    RunController(Runs runs, RunQueue queue, RunRecords records, Captures captures, Checks checks, Copying copying, Repairs repairs,
        CaptureTimes times, RunEvents events, LiveLines live) {
        this.live = live;
        this.runs = runs;
        this.queue = queue;
        this.records = records;
        this.captures = captures;
        this.checks = checks;
        this.copying = copying;
        this.repairs = repairs;
        this.times = times;
        this.events = events;
    }

    /**
     * @param diskId   of the disk it is about; an empty string for none
     * @param imageId  null until the image was made; endedAt null while it runs or waits
     * @param startsAt not before; null when it starts as soon as it can
     * @param waits    "passphrase" when it waits for a person to give one, "device", "turn" or "nothing"
     * @param differs  which stage made it quicker or slower than thought; empty until it is done
     */
    record RunLine(UUID id, String kind, String state, String computer, String diskId, String disk, String destination, String imageName,
        @Schema(types = {"string", "null"}) UUID imageId, Instant begunAt, String begunBy,
        @Schema(types = {"string", "null"}) Instant endedAt, @Schema(types = {"string", "null"}) Instant startsAt, long likelyBytes,
        long storedBytes, double lowSeconds, double highSeconds,
        boolean encrypted, boolean lowPriority, boolean ofNight, String waits, String outcome, String differs){
        static RunLine from(Run run, String differs) {
            return new RunLine(run.id(), run.kind().word(), run.state().word(), run.computer(), run.diskId(), run.disk(), run.destination(),
                run.imageName(), run.copyId(), run.begunAt(), run.begunBy(), run.endedAt(),
                run.startsAt(), run.likelyBytes(), run.storedBytes(), run.lowSeconds(), run.highSeconds(), run.encrypted(),
                run.lowPriority(), run.night() != null, run.waits().word(), run.outcome(), differs);
        }
    }

    /**
     * @param level      null for the codec's usual one
     * @param splitBytes null for a single part
     * @param passphrase null or empty for an image that is not encrypted
     * @param afterwards what becomes of the computer: "nothing", "off" or "restart"; null for nothing
     * @param comment    goes into the image, readable without its passphrase; null or empty for none
     * @param folder     on its drive, a folder pattern; null or empty for the office's choice
     * @param mailTo     who is told how it ended; null or empty for nobody
     */
    record NewCapture(@NotBlank(message = "must be chosen") String diskId, @NotBlank(message = "must be chosen") String destinationId,
        @NotBlank(message = "is needed") @Size(max = 100, message = "is longer than 100 characters") String name, @NotBlank String codec,
        @Schema(types = {
            "integer", "null"}) Integer level,
        @Schema(types = {"integer", "null"}) Long splitBytes, boolean allBlocks, boolean keepSwap, @NotNull List<Integer> without,
        @Schema(types = {"string", "null"}) @Size(max = 1000, message = "is longer than 1000 characters") String passphrase,
        @Schema(types = {"string", "null"}) String afterwards,
        @Schema(types = {"string", "null"}) @Size(max = 2000, message = "may have at most 2000 characters") String comment,
        @Schema(types = {"string", "null"}) String folder,
        @Schema(types = {"array", "null"}) @Size(max = 20, message = "may have at most 20 addresses") List<@NotNull String> mailTo){
        Captures.Then then() {
            try {
                return new Captures.Then(afterwards == null ? Afterwards.NOTHING : RunWishesController.parsed(afterwards),
                    FolderPattern.parse(folder == null ? "" : folder), RunWishesController.addresses(mailTo == null ? List.of() : mailTo));
            } catch (IOException refused) {
                throw Refused.badChoice("folder", refused);
            }
        }

        Storage storage() throws IOException {
            return StorageChoice.of(codec, level, splitBytes, allBlocks, keepSwap, without)
                .commented(comment == null ? "" : comment.strip()).with(Passphrases.told(passphrase));
        }

        @Override
        public String toString() {
            return name + " of " + diskId; // never the passphrase
        }
    }

    /** @param level null for readable */
    record NewCheck(@NotNull UUID imageId, @Schema(types = {
        "string", "null"}) String level, @Schema(types = {"string", "null"}) @Size(max = 1000) String passphrase){
        @Override
        public String toString() {
            return "check of " + imageId;
        }

        ProofLevel proofLevel() {
            String word = level == null ? "readable" : level;
            for (ProofLevel each : ProofLevel.values()) {
                if (each.word().equals(word.toLowerCase(Locale.ROOT)) && each != ProofLevel.BOOTED) {
                    return each;
                }
            }
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "level",
                "There is no check up to \"" + level + "\". Choose complete, sound, readable or rehearsed.");
        }
    }

    record NewCopy(@NotNull UUID imageId, @NotBlank(message = "must be chosen") String toDestinationId) {
    }

    record NewRepair(@NotNull UUID imageId, @NotNull UUID fromImageId, @Schema(types = {
        "string", "null"}) @Size(max = 1000) String passphrase){
        @Override
        public String toString() {
            return "repair of " + imageId;
        }
    }

    record Start(@Schema(types = {
        "string", "null"}) @Size(max = 1000) String passphrase){
        @Override
        public String toString() {
            return "start";
        }
    }

    private List<RunLine> lines(List<Run> of) {
        Map<UUID, RunComparison> compared = times
            .comparisons(of.stream().filter(run -> run.state() == Run.State.DONE).map(Run::id).toList());
        return of.stream()
            .map(run -> RunLine.from(run, Optional.ofNullable(compared.get(run.id())).map(RunComparison::sentence).orElse(""))).toList();
    }

    private static RunLine begun(Run run) {
        return RunLine.from(run, "");
    }

    @GetMapping
    List<RunLine> all() {
        return lines(records.newest(LISTED));
    }

    /** What waits, in the order it was asked for. */
    @GetMapping("/waiting")
    List<RunLine> waiting() {
        return lines(queue.waiting());
    }

    @GetMapping("/{id}")
    RunLine one(@PathVariable UUID id) {
        return lines(List.of(records.find(id).orElseThrow(() -> Refused.notFound("run")))).get(0);
    }

    @GetMapping("/live")
    List<LiveLines.Live> live() {
        return live.now();
    }

    @GetMapping(value = "/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter events(Authentication who, HttpServletRequest request) {
        HttpSession session = request.getSession();
        return events.listen(session.getId(), who.getName(), Accounts.since(session));
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    RunLine capture(@Valid @RequestBody NewCapture capture, Authentication who) throws IOException {
        return begun(captures.begin(capture.diskId(), capture.destinationId(), capture.name(), capture.storage(), capture.then(),
            who.getName()));
    }

    @PostMapping("/checks")
    @ResponseStatus(HttpStatus.CREATED)
    RunLine check(@Valid @RequestBody NewCheck check, Authentication who) {
        return begun(checks.begin(check.imageId(), check.proofLevel(), Passphrases.told(check.passphrase()), false, who.getName()));
    }

    @PostMapping("/copies")
    @ResponseStatus(HttpStatus.CREATED)
    RunLine copy(@Valid @RequestBody NewCopy copy, Authentication who) throws IOException {
        return begun(copying.begin(copy.imageId(), copy.toDestinationId(), who.getName()));
    }

    @PostMapping("/repairs")
    @ResponseStatus(HttpStatus.CREATED)
    RunLine repair(@Valid @RequestBody NewRepair repair, Authentication who) {
        return begun(repairs.begin(repair.imageId(), repair.fromImageId(), Passphrases.told(repair.passphrase()), who.getName()));
    }

    @PostMapping("/{id}/stop")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void stop(@PathVariable UUID id, Authentication who) {
        runs.stop(id, who.getName());
    }

    @PostMapping("/{id}/pause")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void pause(@PathVariable UUID id, Authentication who) {
        runs.pause(id, true, who.getName());
    }

    @PostMapping("/{id}/go-on")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void goOn(@PathVariable UUID id, Authentication who) {
        runs.pause(id, false, who.getName());
    }

    @PostMapping("/{id}/give-way")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void giveWay(@PathVariable UUID id, Authentication who) {
        runs.lower(id, true, who.getName());
    }

    @PostMapping("/{id}/usual-priority")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void usualPriority(@PathVariable UUID id, Authentication who) {
        runs.lower(id, false, who.getName());
    }

    /** Begins one that waits as soon as its devices are free. */
    @PostMapping("/{id}/seen")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void seen(@PathVariable UUID id, Authentication who) {
        records.see(id, who.getName());
    }

    @PostMapping("/{id}/start")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void start(@PathVariable UUID id, @Valid @RequestBody Start start, Authentication who) {
        runs.startNow(id, Passphrases.told(start.passphrase()), who.getName());
    }
}
