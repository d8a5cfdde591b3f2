package app.granary.server.rehearsal;

import app.granary.server.problem.Refused;
import app.granary.server.queue.Passphrases;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.core.io.FileSystemResource;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Rehearsals of an image, and the pictures kept of them. */
@RestController
@RequestMapping("/api/v1/rehearsals")
class RehearsalController {
    private final Rehearsals rehearsals;

    RehearsalController(Rehearsals rehearsals) {
        this.rehearsals = rehearsals;
    }

    /**
     * @param endedAt null while it waits or runs
     * @param picture whether a picture of its screen is kept
     * @param serial  what it sent over its serial line; usually empty
     */
    record RehearsalLine(UUID id, Instant askedAt, String askedBy, @Schema(types = {
        "string", "null"}) Instant endedAt, boolean ok, boolean picture, boolean rested, String serial, String outcome){
    }

    @GetMapping("/of/{imageId}")
    List<RehearsalLine> of(@PathVariable UUID imageId) {
        return rehearsals.of(imageId).stream().map(each -> new RehearsalLine(each.id(), each.askedAt(), each.askedBy(), each.endedAt(),
            each.ok(), each.started(), each.rested(), each.serial(), each.outcome())).toList();
    }

    /** @param days 0 for only by hand */
    record RehearsalSchedule(
        @Min(value = 0, message = "must be 0 to 365 days") @Max(value = 365, message = "must be 0 to 365 days") int days) {
    }

    @GetMapping("/schedule")
    RehearsalSchedule schedule() {
        return new RehearsalSchedule(rehearsals.scheduleDays());
    }

    @PutMapping("/schedule")
    RehearsalSchedule schedule(@Valid @RequestBody RehearsalSchedule wanted, Principal who) {
        rehearsals.schedule(wanted.days, who.getName());
        return wanted;
    }

    record NewRehearsal(@Schema(types = {
        "string", "null"}) @Size(max = 1000) String passphrase){
        @Override
        public String toString() {
            return "rehearsal"; // never the passphrase
        }
    }

    record RehearsalBegun(UUID id) {
    }

    @PostMapping("/of/{imageId}")
    RehearsalBegun begin(@PathVariable UUID imageId, @Valid @RequestBody NewRehearsal wanted, Principal who) {
        return new RehearsalBegun(rehearsals.begin(imageId, Passphrases.told(wanted.passphrase), who.getName()));
    }

    @GetMapping("/{id}/picture")
    ResponseEntity<FileSystemResource> picture(@PathVariable UUID id) throws IOException {
        Path picture = rehearsals.picture(id);
        if (!Files.exists(picture)) {
            throw Refused.notFound("picture");
        }
        return ResponseEntity.ok().contentType(MediaType.IMAGE_PNG).body(new FileSystemResource(picture));
    }
}
