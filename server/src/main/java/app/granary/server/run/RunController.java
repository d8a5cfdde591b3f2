package app.granary.server.run;

import app.granary.engine.site.Storage;
import app.granary.server.estimate.StorageChoice;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
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

/** Runs: begin, watch, stop. */
@RestController
@RequestMapping("/api/v1/runs")
class RunController {
    private final Runs runs;
    private final RunEvents events;

    RunController(Runs runs, RunEvents events) {
        this.runs = runs;
        this.events = events;
    }

    /** @param imageId null until the image was made; endedAt null while it runs */
    record RunLine(UUID id, String kind, String state, String computer, String disk, String destination, String imageName, @Schema(types = {"string", "null"}) UUID imageId, Instant begunAt, String begunBy,
                   @Schema(types = {"string", "null"}) Instant endedAt, long likelyBytes, long storedBytes, double lowSeconds, double highSeconds, String outcome) {
        static RunLine from(Run run) {
            return new RunLine(run.id(), run.kind().word(), run.state().word(), run.computer(), run.disk(), run.destination(), run.imageName(), run.imageId(), run.begunAt(),
                run.begunBy(), run.endedAt(), run.likelyBytes(), run.storedBytes(), run.lowSeconds(), run.highSeconds(), run.outcome());
        }
    }

    /**
     * A run as it stands.
     *
     * @param stage       "capturing" or "checking"
     * @param doneBytes   of this stage
     * @param rateBytes   per second, of this stage so far; 0 before it is known
     */
    record Live(UUID id, String kind, String computer, String disk, String serial, String destination, String imageName, String stage, long doneBytes, long totalBytes, long storedBytes,
                long rateBytes, double lowSecondsLeft, double highSecondsLeft) {
        static Live from(LiveRun running) {
            Run run = running.run();
            double[] left = running.secondsLeft();
            return new Live(run.id(), run.kind().word(), run.computer(), run.disk(), running.serial(), run.destination(), run.imageName(), running.progress().stage().word(),
                running.progress().doneBytes(), running.progress().totalBytes(), running.progress().storedBytes(), running.rateBytes(), left[0], left[1]);
        }
    }

    /** @param level null for the codec's usual one; splitBytes null for a single part */
    record NewCapture(@NotBlank(message = "must be chosen") String diskId, @NotBlank(message = "must be chosen") String destinationId,
                      @NotBlank(message = "is needed") @Size(max = 100, message = "is longer than 100 characters") String name, @NotBlank String codec, @Schema(types = {"integer", "null"}) Integer level,
                      @Schema(types = {"integer", "null"}) Long splitBytes, boolean allBlocks, boolean keepSwap) {
        Storage storage() throws IOException {
            return StorageChoice.of(codec, level, splitBytes, allBlocks, keepSwap);
        }
    }

    record NewCheck(UUID imageId) {
    }

    @GetMapping
    List<RunLine> all() {
        return runs.newest().stream().map(RunLine::from).toList();
    }

    @GetMapping("/{id}")
    RunLine one(@PathVariable UUID id) {
        return RunLine.from(runs.one(id));
    }

    @GetMapping("/live")
    List<Live> live() {
        return runs.underWay().stream().map(Live::from).toList();
    }

    @GetMapping(value = "/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter events() {
        return events.listen();
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    RunLine capture(@Valid @RequestBody NewCapture capture, Authentication who) throws IOException {
        return RunLine.from(runs.beginCapture(capture.diskId(), capture.destinationId(), capture.name(), capture.storage(), who.getName()));
    }

    @PostMapping("/checks")
    @ResponseStatus(HttpStatus.CREATED)
    RunLine check(@RequestBody NewCheck check, Authentication who) {
        return RunLine.from(runs.beginCheck(check.imageId(), who.getName()));
    }

    @PostMapping("/{id}/stop")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void stop(@PathVariable UUID id, Authentication who) {
        runs.stop(id, who.getName());
    }
}
