package app.granary.server.reconciliation;

import app.granary.core.reconciliation.Difference;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** In which drives and the database differ, and what a person says of it. */
@RestController
@RequestMapping("/api/v1/reconciliation")
class ReconciliationController {
    private final Reconciliation reconciliation;

    ReconciliationController(Reconciliation reconciliation) {
        this.reconciliation = reconciliation;
    }

    /** @param kind "missing", "unknown-images" or "unknown-in-trash" */
    record DifferenceLine(String kind, String destinationId, String destination, List<String> names, String title, String sentence) {
        static DifferenceLine from(Difference each) {
            return new DifferenceLine(each.kind().word(), each.driveId(), each.drive(), each.names(), each.title(), each.sentence());
        }
    }

    /** Of the drives that are attached, as last seen; empty when they agree. */
    @GetMapping
    List<DifferenceLine> differences() {
        return reconciliation.differences().stream().map(DifferenceLine::from).toList();
    }

    /** Images that are missing and will not come back. */
    record WriteOff(@NotEmpty(message = "names no image") @Size(max = 5000,
        message = "may have at most 5000 images at a time") List<@NotNull UUID> images) {
    }

    @PostMapping("/written-off")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void writeOff(@Valid @RequestBody WriteOff form, Principal who) throws IOException {
        reconciliation.writeOff(form.images, who.getName());
    }
}
