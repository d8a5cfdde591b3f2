package app.granary.server.plan;

import app.granary.core.plan.Plan;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Plans as files, and what is due as a calendar. */
@RestController
@RequestMapping("/api/v1/plans")
class PlanExchangeController {
    private final Plans plans;
    private final PlanImports imports;
    private final PlanFile file;
    private final PlanCalendar calendar;

    PlanExchangeController(Plans plans, PlanImports imports, PlanFile file, PlanCalendar calendar) {
        this.plans = plans;
        this.imports = imports;
        this.file = file;
        this.calendar = calendar;
    }

    @GetMapping("/{id}/file")
    ResponseEntity<String> export(@PathVariable UUID id) {
        Plan plan = plans.one(id).plan();
        return download(
            plan.name().replaceAll("[^A-Za-z0-9]+", "-").replaceAll("^-|-$", "").toLowerCase(java.util.Locale.ROOT) + ".plan.json",
            MediaType.APPLICATION_JSON, file.write(PlanForm.of(plan)));
    }

    private static ResponseEntity<String> download(String name, MediaType type, String text) {
        return ResponseEntity.ok().header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=" + name)
            .contentType(new MediaType(type, java.nio.charset.StandardCharsets.UTF_8)).body(text);
    }

    /** @param text a plan file */
    record PlanText(@NotNull String text) {
    }

    /**
     * A file read, nothing saved yet.
     *
     * @param diskKnown       whether its disk is in this office
     * @param existingId      the plan of that name here; null when there is none
     * @param existingVersion for If-Match; null when there is none
     * @param changes         what it would change there; empty when it is the same, or there is none
     */
    record ImportedPlan(PlanForm form, boolean diskKnown, List<String> unknownDrives, @Schema(types = {
        "string", "null"}) UUID existingId,
        @Schema(types = {"integer", "null"}) Long existingVersion, List<String> changes){
    }

    @PostMapping("/import")
    ImportedPlan read(@Valid @RequestBody PlanText text) throws IOException {
        PlanImports.Imported read = imports.read(text.text());
        Optional<Plans.Saved> existing = Optional.ofNullable(read.existing());
        return new ImportedPlan(read.form(), read.diskKnown(), read.unknownDrives(), existing.map(Plans.Saved::id).orElse(null),
            existing.map(Plans.Saved::version).orElse(null), read.changes());
    }

    /** Due nights of the coming quarter as a calendar (RFC 5545). */
    @GetMapping("/calendar")
    ResponseEntity<String> calendar() {
        return download("granary-plans.ics", new MediaType("text", "calendar"), calendar.write());
    }
}
