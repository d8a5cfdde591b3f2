package app.granary.server.restore;

import app.granary.core.disk.Partition;
import app.granary.core.fault.FaultException;
import app.granary.core.layout.Added;
import app.granary.core.layout.Placed;
import app.granary.core.layout.Refusal;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.runbook.Runbook;
import app.granary.core.target.TargetDisk;
import app.granary.engine.openpgp.Passphrase;
import app.granary.server.queue.Passphrases;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunRecords;
import app.granary.server.target.Targets;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Restores and spares: what would be, what is done, what was signed. */
@RestController
@RequestMapping("/api/v1/restore")
class RestoreController {
    private final Restorations restorations;
    private final RestorationRecords written;
    private final Runbooks runbooks;
    private final Targets targets;
    private final Sources sources;
    private final RunRecords runs;

    RestoreController(Restorations restorations, RestorationRecords written, Runbooks runbooks, Targets targets, Sources sources,
        RunRecords runs) {
        this.sources = sources;
        this.restorations = restorations;
        this.written = written;
        this.runbooks = runbooks;
        this.targets = targets;
        this.runs = runs;
    }

    /**
     * @param servedId     the virtual computer whose disk is written; null for an image or a disk
     * @param imageId      what is restored; null for a copy of a disk
     * @param diskId       the disk that is copied; null for an image
     * @param computer     which it is for; an empty string for the one the image is of
     * @param strategy     "keep", "grow", "share" or "by-hand"
     * @param into         number of the target's partition by that of the image's, where the others stay; null for the same ones
     * @param added        partitions to make in what stays free; null for none
     * @param shrink       whether file systems are made smaller on the way where that is needed
     * @param allSectors   of a disk: whether what is not in use is copied too
     * @param refreshes    the spare that is made like its disk again; null where all is written
     * @param confirmation what was typed; an empty string while it is only looked at
     * @param passphrase   null or empty where the image is not encrypted
     */
    record RestoreRequest(@Schema(types = {
        "string", "null"}) UUID servedId, @Schema(types = {"string", "null"}) UUID imageId, @Schema(types = {"string",
            "null"}) String diskId,
        @NotBlank(message = "choose the disk to write onto") String targetId, @NotNull String computer,
        @NotNull String strategy, boolean stay, @Schema(types = {"object", "null"}) Map<Integer, Long> sizes,
        @Schema(types = {"array", "null"}) List<Integer> only, boolean othersStay,
        @Schema(types = {"object", "null"}) Map<Integer, Integer> into,
        @Schema(types = {"array", "null"}) @Valid List<AddedPartition> added, boolean zeroUnused,
        boolean acceptDamage, boolean skipCheck, boolean shrink, boolean allSectors,
        @Schema(types = {"string", "null"}) UUID refreshes, @NotNull String confirmation,
        @Schema(types = {"string", "null"}) @Size(max = 1000) String passphrase){
        RestoreChoice choice() {
            return new RestoreChoice(strategy, stay, sizes, only, othersStay, into, added, zeroUnused, acceptDamage, skipCheck,
                shrink, allSectors, refreshes);
        }

        Passphrase secret() {
            return Passphrases.told(passphrase);
        }

        @Override
        public String toString() {
            return imageId + " onto " + targetId; // never the passphrase
        }
    }

    /** @param hidden whether the computer's user never sees it */
    record PlacedLine(int number, String name, String type, String fileSystem, boolean hidden, long fromStart, long fromBytes, long toStart,
        long toBytes, long usedBytes, long minBytes, long maxBytes, boolean moved, boolean resized) {
        static PlacedLine from(Placed p) {
            return new PlacedLine(p.from().number(), p.from().name(), p.from().type().name(), p.fileSystem(), p.from().type().hidden(),
                p.from().startBytes(), p.from().sizeBytes(), p.to().startBytes(), p.to().sizeBytes(),
                p.usedBytes().orElse(p.highestUsedBytes()), p.minBytes(), p.maxBytes(), p.moved(), p.resized());
        }
    }

    record LayoutStep(String when, String sentence, String command) {
    }

    /** A partition that is made new, empty. */
    record AddedLine(int number, String name, String fileSystem, long startBytes, long sizeBytes) {
        static AddedLine from(Added a) {
            return new AddedLine(a.to().number(), a.label(), a.fileSystem().word(), a.to().startBytes(), a.to().sizeBytes());
        }
    }

    /** A partition of the target as it is now. */
    record StayingLine(int number, String name, String type, boolean hidden, long startBytes, long sizeBytes) {
        static StayingLine from(Partition p) {
            return new StayingLine(p.number(), p.name(), p.type().name(), p.type().hidden(), p.startBytes(), p.sizeBytes());
        }
    }

    record LayoutStretch(long startBytes, long sizeBytes) {
    }

    /**
     * @param diskBytes length of the disk in the image
     * @param fits      whether it goes onto the target as it is chosen; where it does not, what is placed is no plan
     * @param refusals  why it cannot be done; empty when it can
     * @param stays     partitions of the target that are not touched; none where its table is written
     * @param added     partitions that are made new
     * @param there     all partitions the target has now
     * @param shrinkable whether it could be done if file systems were made smaller on the way
     * @param scratch   where they are made smaller; null where none is
     * @param working   how the figures came about
     * @param runbook   null where it cannot be done
     */
    record LayoutDetail(long diskBytes, long targetBytes, String scheme, boolean fits, List<PlacedLine> placed, List<StayingLine> stays,
        List<AddedLine> added, List<StayingLine> there,
        List<LayoutStretch> unallocated,
        long unallocatedBytes, long tableBytes, long alignmentBytes, List<LayoutStep> steps,
        List<String> refusals, List<String> remarks, boolean shrinkable, @Schema(types = {
            "object", "null"}) ScratchDetail scratch, Working working, Instant madeAt, @Schema(types = {
                "object", "null"}) Runbook runbook){
    }

    /** @param bytes of the scratch file, at most */
    record ScratchDetail(String where, long bytes, long freeBytes) {
    }

    private Sources.Source source(RestoreRequest request) throws IOException {
        if (Stream.of(request.servedId, request.imageId, request.diskId).filter(Objects::nonNull).count() != 1) {
            throw new app.granary.server.problem.Refused(HttpStatus.BAD_REQUEST, "bad-choice", "imageId",
                "Choose an image to restore, a disk to copy, or a virtual computer.");
        }
        return sources.of(request.servedId, request.imageId, request.diskId, request.allSectors, request.secret());
    }

    /** What it would look like; nothing is written. */
    @PostMapping("/layout")
    LayoutDetail layout(@Valid @RequestBody RestoreRequest request) throws IOException {
        Sources.Source source = source(request);
        TargetDisk target = targets.one(request.targetId);
        String computer = request.computer.isBlank() ? source.computer() : request.computer;
        RestoreLayout layout = restorations.layout(source, request.targetId, restorations.firmware(computer), request.choice());
        List<String> refusals = new ArrayList<>(targets.refusals(target, source.serials(), request.choice().replaced()));
        layout.refusals().forEach(each -> refusals.add(each.sentence()));
        List<String> remarks = new ArrayList<>(layout.remarks());
        source.imageId().map(restorations::badBytes).filter(bytes -> bytes > 0)
            .ifPresent(bytes -> remarks.add(app.granary.core.measure.Sizes.decimal(bytes)
                + " of the disk could not be read when the image was made, and are zeros in it. Its page says which files they hit."));
        Optional<ScratchDetail> scratch = Optional.empty();
        try {
            scratch = restorations.scratch(request.targetId, layout)
                .map(each -> new ScratchDetail(each.where(), layout.scratchBytes(), each.freeBytes()));
        } catch (FaultException noRoom) {
            refusals.add(noRoom.fault().sentence());
        }
        if (scratch.isPresent() && source.encrypted()) {
            remarks.add("The image is encrypted, and the scratch file is not: until the restore ends, what is in it lies readable on "
                + scratch.get().where + ".");
        }
        return new LayoutDetail(source.diskBytes(), layout.target().sizeBytes(), layout.table().scheme(), layout.fits(),
            layout.placed().stream().map(PlacedLine::from).toList(), layout.staying().stream().map(StayingLine::from).toList(),
            layout.added().stream().map(AddedLine::from).toList(),
            layout.target().table().partitions().stream().filter(each -> !each.container()).map(StayingLine::from).toList(),
            layout.unallocated().stream().map(each -> new LayoutStretch(each.startBytes(), each.sizeBytes())).toList(),
            layout.unallocatedBytes(), layout.tableBytes(), layout.alignmentBytes(),
            layout.steps().stream()
                .map(each -> new LayoutStep(each.when().name().toLowerCase(java.util.Locale.ROOT), each.sentence(), each.command()))
                .toList(),
            refusals, remarks, shrinkable(layout), scratch.orElse(null),
            RestoreWorkings.of(layout), source.madeAt(),
            refusals.isEmpty() ? runbooks.of(source, Optional.of(target), layout, computer) : null);
    }

    private static boolean shrinkable(RestoreLayout layout) {
        return !layout.fits() && layout.refusals().stream().allMatch(each -> each.kind() == Refusal.Kind.SHRINK_FIRST);
    }

    record RestoreBegun(UUID id) {
    }

    @PostMapping
    RestoreBegun begin(@Valid @RequestBody RestoreRequest request, Principal who) throws IOException {
        Restoration.Kind kind = request.diskId == null && request.refreshes == null ? Restoration.Kind.RESTORE : Restoration.Kind.SPARE;
        return new RestoreBegun(restorations.begin(kind, request.servedId, source(request), request.targetId, request.confirmation,
            request.computer,
            request.choice(), Optional.empty(), request.secret(), who.getName()));
    }

    record CarryOnRequest(@NotNull String confirmation, @Schema(types = {
        "string", "null"}) String passphrase){
        @Override
        public String toString() {
            return confirmation; // never the passphrase
        }
    }

    @PostMapping("/{id}/carry-on")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void carryOn(@PathVariable UUID id, @Valid @RequestBody CarryOnRequest again, Principal who) throws IOException {
        restorations.carryOn(id, again.confirmation, Passphrases.told(again.passphrase), who.getName());
    }

    /**
     * @param kind   "restore", "spare", "rollout"
     * @param state  "queued", "running", "done", "failed"
     * @param flaw   what of a disk that was copied could not be read, as a clause; an empty string when all of it was
     * @param lost   files that lie there
     * @param checks what is to be looked at before it is signed
     */
    record RestorationLine(UUID id, String kind, UUID runId, String imageName, Instant madeAt, String computer, String diskId,
        String disk, String target,
        String targetSerial, String forComputer, String state, String outcome, Instant askedAt,
        String askedBy, List<String> checks, List<String> checked, String note, @Schema(types = {
            "string", "null"}) Instant signedAt,
        String signedBy, String place, boolean retired, String flaw, List<String> lost){
    }

    @GetMapping
    List<RestorationLine> all() {
        return written.newest().stream().map(this::line).toList();
    }

    private RestorationLine line(Restoration r) {
        // read a moment before its run was stored as ended: that it is under way was true then
        String state = r.state() == Restoration.State.ASKED
            ? runs.find(r.runId()).map(run -> run.endedAt() == null ? run.state() : Run.State.RUNNING).orElse(Run.State.QUEUED).word()
            : r.state().name().toLowerCase(java.util.Locale.ROOT);
        return new RestorationLine(r.id(), r.kind().name().toLowerCase(java.util.Locale.ROOT), r.runId(), r.imageName(), r.madeAt(),
            r.computer(), r.diskId(), r.disk(), r.targetName(), r.target().identity().serial(), r.forComputer(), state,
            r.outcome(), r.askedAt(), r.askedBy(), runbooks.checks(r), r.checked(), r.note(), r.signedAt(), r.signedBy(), r.place(),
            r.retiredAt() != null, r.flaw(), r.lost());
    }

    record RestoreSignature(@NotNull List<String> checks,
        @NotNull @Size(max = 900, message = "is longer than 900 characters") String note) {
    }

    @PostMapping("/{id}/sign")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void sign(@PathVariable UUID id, @Valid @RequestBody RestoreSignature signature, Principal who) {
        written.sign(id, signature.checks, runbooks.checks(written.one(id)), signature.note, who.getName());
    }

    record SparePlace(@NotBlank(message = "say where it lies") @Size(max = 190) String place) {
    }

    @PostMapping("/{id}/place")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void place(@PathVariable UUID id, @Valid @RequestBody SparePlace place, Principal who) {
        written.lieAt(id, place.place, who.getName());
    }

    @PostMapping("/{id}/retire")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void retire(@PathVariable UUID id, Principal who) {
        written.retire(id, who.getName());
    }

    record RunbookRequest(@NotNull UUID imageId) {
    }

    record RunbookExported(String sentence) {
    }

    /** Lays the runbook of an image beside it, as a plain page. */
    @PostMapping("/runbook")
    RunbookExported export(@Valid @RequestBody RunbookRequest request, Principal who) throws IOException {
        return new RunbookExported(runbooks.export(request.imageId, who.getName()));
    }
}
