package app.granary.server.rescue;

import app.granary.core.rescue.SchemeAdvice;
import app.granary.engine.host.Overwriting;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.journal.OfficeZone;
import app.granary.server.label.QrCode;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.OptionalInt;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Sticks and discs, what they start, and writing one. */
@RestController
@RequestMapping("/api/v1/rescue-media")
class RescueController {
    private final RescueMedia media;
    private final ComputersOnRecord computers;
    private final Overwriting overwriting;
    private final OfficeZone office;
    private final Clock clock;

    RescueController(RescueMedia media, ComputersOnRecord computers, Overwriting overwriting, OfficeZone office, Clock clock) {
        this.media = media;
        this.computers = computers;
        this.overwriting = overwriting;
        this.office = office;
        this.clock = clock;
    }

    /** @param suits whether its kind of firmware is among those it starts */
    record BootTestLine(String computer, Instant at, boolean started, boolean stands) {
    }

    /**
     * @param starts kinds of firmware
     * @param due         why it should be tried; an empty string when it need not be
     * @param imageFile   its own image among the files; an empty string where none was kept
     * @param imageDigest SHA-256 of it
     */
    record MediumLine(UUID id, String name, String kind, String model, String serial, long sizeBytes, String contents, List<String> starts,
        Instant since, int writes, int errors, String place, boolean spareSet, boolean retired,
        boolean writing, List<BootTestLine> tests, List<String> startsComputers, String due, List<String> wear,
        String imageFile, @Schema(types = {"string", "null"}) Instant imageAt, String imageDigest) {
    }

    /** @param stick names of media known to start it; empty when none is */
    record StartedBy(String name, String firmware, String bootKey, String advice, List<String> media) {
    }

    /** @param imageOf the stick it was kept of; an empty string for any other file */
    record RescueFile(String id, String name, long bytes, String where, String kind, String label, List<String> starts, String refusal,
        String imageOf) {
    }

    record RescuePage(String sentence, List<MediumLine> media, List<StartedBy> computers, List<RescueFile> files) {
    }

    @GetMapping
    RescuePage page() throws IOException {
        List<RescueMedia.Registered> all = media.all();
        List<MediumLine> lines = all.stream().map(each -> line(each, computers.all())).toList();
        List<StartedBy> byComputer = computers.all().stream()
            .map(each -> new StartedBy(each.name(), each.facts().firmware().word(), each.facts().bootKey(),
                SchemeAdvice.of(each.facts().firmware(), OptionalInt.empty()).sentence(),
                all.stream().filter(medium -> medium.medium().starts(each.id().toString())).map(medium -> medium.stick().name()).toList()))
            .toList();
        List<RescueFile> files = overwriting.rawFiles().stream().map(this::file).toList();
        long started = byComputer.stream().filter(each -> !each.media.isEmpty()).count();
        long inUse = lines.stream().filter(each -> !each.retired).count();
        long due = lines.stream().filter(each -> !each.due.isEmpty()).count();
        return new RescuePage(started + " of " + byComputer.size() + " computers are known to start from "
            + (inUse == 1 ? "the one medium in use" : "one of " + inUse + " media")
            + (due == 0 ? "." : "; " + due + (due == 1 ? " is" : " are") + " to be tried."), lines, byComputer, files);
    }

    private RescueFile file(Overwriting.RawFile f) {
        return new RescueFile(f.id(), f.name(), f.bytes(), f.where(), f.content().kind().word(), f.content().label(), f.content().starts(),
            f.content().refusal(), media.keptFrom(f.id()).map(RescueStick::name).orElse(""));
    }

    private MediumLine line(RescueMedia.Registered each, List<ComputersOnRecord.ComputerOnRecord> inUse) {
        RescueStick s = each.stick();
        return new MediumLine(s.id(), s.name(), s.kind(), s.model(), s.serial(), s.sizeBytes(), s.contents(), s.starts(), s.since(),
            s.writes(), s.errors(), s.place(), s.spareSet(), s.retiredAt() != null, s.pendingRun() != null,
            each.medium().tests().stream()
                .sorted(java.util.Comparator.comparing(app.granary.core.rescue.RescueMedium.BootTest::at).reversed())
                .map(t -> new BootTestLine(t.computer(), t.at(), t.started(), t.writeCount() == s.writes())).toList(),
            inUse.stream().filter(computer -> each.medium().starts(computer.id().toString()))
                .map(ComputersOnRecord.ComputerOnRecord::name).toList(), each.medium().due(clock.instant()).orElse(""),
            each.medium().wear(clock.instant()), s.imageFile(), s.imageAt(), s.imageDigest());
    }

    /** What its label carries. */
    @GetMapping(value = "/{id}/code.svg", produces = "image/svg+xml")
    ResponseEntity<String> code(@PathVariable UUID id) {
        RescueStick stick = media.one(id);
        return ResponseEntity.ok().contentType(MediaType.parseMediaType("image/svg+xml"))
            .body(QrCode.svg("granary rescue " + stick.name() + " " + stick.serial()));
    }

    /**
     * @param kind  "stick" or "disc"
     * @param since the day it came into use; null for now
     */
    record NewMedium(@NotBlank(message = "needs the name on its label") @Size(max = 60) String name, @NotBlank String kind,
        @NotNull @Size(max = 190) String serial, @NotNull @Size(max = 190) String contents, @NotNull List<String> starts,
        @NotNull @Size(max = 190) String place, boolean spareSet,
        @Schema(types = {"string", "null"}, format = "date") LocalDate since){
    }

    record MediumMade(UUID id) {
    }

    @PostMapping
    MediumMade register(@Valid @RequestBody NewMedium m, Principal who) throws IOException {
        Instant since = m.since == null ? clock.instant() : m.since.atStartOfDay(office.zone()).toInstant();
        return new MediumMade(media.register(
            new RescueMedia.Entry(m.name, m.kind, m.serial, m.contents, m.starts, m.place, m.spareSet, since), who.getName()));
    }

    record MediumChange(@NotNull @Size(max = 190) String place, boolean spareSet, @NotNull @Size(max = 190) String contents) {
    }

    @PutMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(@PathVariable UUID id, @Valid @RequestBody MediumChange c, Principal who) {
        media.change(id, c.place, c.spareSet, c.contents, who.getName());
    }

    record BootTrialNote(@NotBlank(message = "choose a computer") String computer, boolean started, @NotNull @Size(max = 290) String note) {
    }

    @PostMapping("/{id}/tests")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void tried(@PathVariable UUID id, @Valid @RequestBody BootTrialNote t, Principal who) {
        media.tried(id, t.computer, t.started, t.note, who.getName());
    }

    record MediumRetire(@NotBlank(message = "say why") @Size(max = 290) String why) {
    }

    @PostMapping("/{id}/retire")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void retire(@PathVariable UUID id, @Valid @RequestBody MediumRetire r, Principal who) {
        media.retire(id, r.why, who.getName());
    }

    /** The stick is read into a file of its own, which others can be written from. */
    @PostMapping("/{id}/image")
    WriteBegun keep(@PathVariable UUID id, Principal who) throws IOException {
        return new WriteBegun(media.keep(id, who.getName()));
    }

    /** @param confirmation the last four characters of the stick's serial number */
    record WriteRequest(@NotBlank(message = "choose a file") String fileId, @NotBlank(message = "choose the stick") String targetId,
        @NotNull String confirmation) {
    }

    record WriteBegun(UUID runId) {
    }

    @PostMapping("/{id}/write")
    WriteBegun write(@PathVariable UUID id, @Valid @RequestBody WriteRequest w, Principal who) throws IOException {
        return new WriteBegun(media.write(id, w.fileId, w.targetId, w.confirmation, who.getName()));
    }
}
