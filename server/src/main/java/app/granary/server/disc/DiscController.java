package app.granary.server.disc;

import app.granary.core.destination.Disc;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.check.CopyRuns;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
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

/** Discs of an image. */
@RestController
@RequestMapping("/api/v1/images/{id}/discs")
class DiscController {
    private final CopyRuns runs;

    DiscController(CopyRuns runs) {
        this.runs = runs;
    }

    /** @param disc "DVD+R", "DVD-R" or "BD-R" */
    record DiscsAsked(@NotBlank(message = "must be chosen") String disc, boolean iso) {
    }

    record DiscsBegun(UUID runId) {
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    DiscsBegun lay(@PathVariable UUID id, @Valid @RequestBody DiscsAsked asked, Principal who) {
        Disc disc;
        try {
            disc = Disc.require(asked.disc);
        } catch (IOException unknown) {
            throw Refused.badChoice("disc", unknown);
        }
        return new DiscsBegun(runs.begin(Run.Kind.DISCS, id, ProofLevel.COMPLETE, new DiscOrder(disc.label(), asked.iso), Passphrase.NONE,
            false, who.getName(), "Discs of %s on %s asked for.").id());
    }
}
