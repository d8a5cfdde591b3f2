package app.granary.server.capture;

import app.granary.server.queue.Passphrases;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Plans run by hand. */
@RestController
@RequestMapping("/api/v1/plans/{id}/runs")
class PlanRunController {
    private final PlanRuns runs;

    PlanRunController(PlanRuns runs) {
        this.runs = runs;
    }

    /** @param passphrase null or empty where the plan's image is not encrypted */
    record PlanRunRequest(@Schema(types = {"string", "null"}) @Size(max = 1000) String passphrase){
        @Override
        public String toString() {
            return "a run"; // never the passphrase
        }
    }

    record PlanRunBegun(UUID runId, String destination) {
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    PlanRunBegun now(@PathVariable UUID id, @Valid @RequestBody PlanRunRequest request, Principal who) throws IOException {
        PlanRuns.Begun begun = runs.now(id, Passphrases.told(request.passphrase), who.getName());
        return new PlanRunBegun(begun.runId(), begun.destination());
    }
}
