package app.granary.server.computer;

import app.granary.core.inventory.BootKeys;
import app.granary.core.measure.Sizes;
import app.granary.server.journal.Journal;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Computers, their disks, and what lies on each. */
@RestController
@RequestMapping("/api/v1/computers")
class ComputerController {
    private final Inventory inventory;
    private final ComputerLines lines;
    private final AttachedDisks attached;
    private final Gaps gaps;
    private final LastImages images;
    private final BootKeys bootKeys;
    private final LearntSizes learnt;
    private final Journal journal;
    private final DiskTelling telling;

    ComputerController(DiskTelling telling, Inventory inventory, ComputerLines lines, AttachedDisks attached, Gaps gaps, LastImages images,
        BootKeys bootKeys, LearntSizes learnt, Journal journal) {
        this.inventory = inventory;
        this.lines = lines;
        this.attached = attached;
        this.gaps = gaps;
        this.images = images;
        this.bootKeys = bootKeys;
        this.learnt = learnt;
        this.journal = journal;
        this.telling = telling;
    }

    @GetMapping
    Wire.ComputerList computers() {
        return new Wire.ComputerList(attached.reading(), lines.all(), telling.lines());
    }

    /** Reads the disks at hand again; the list says when that is done. */
    @PostMapping("/read-again")
    ResponseEntity<Void> readAgain() {
        attached.readAgain();
        return ResponseEntity.accepted().build();
    }

    /** @param diskId of the disk on record it is; an empty string for a disk nobody knows yet */
    record Told(@NotNull @Size(max = 300) String attachment, @NotNull @Size(max = 200) String diskId) {
    }

    /** A person says which disk it is that cannot be told. */
    @PostMapping("/told")
    Wire.ComputerList told(@Valid @RequestBody Told told, Principal who) throws IOException {
        telling.tell(told.attachment, told.diskId, who.getName());
        return computers();
    }

    @GetMapping("/{id}")
    ResponseEntity<Wire.ComputerDetail> one(@PathVariable UUID id) {
        return detail(inventory.one(id));
    }

    private ResponseEntity<Wire.ComputerDetail> detail(Computer computer) {
        List<Disk> disks = inventory.disksOf(computer.id());
        List<Wire.DiskDetail> details = disks.stream().map(this::disk).toList();
        Wire.ComputerLine line = lines.line(computer, disks, images.newest());
        return ResponseEntity.ok().eTag(Long.toString(computer.version())).body(new Wire.ComputerDetail(line, ComputerForm.of(computer),
            bootKeys.suggestion(computer.facts().maker()).orElse(""), computer.source(), computer.version(), details,
            computer.filesSavedOn(),
            computer.filesNote()));
    }

    private Wire.DiskDetail disk(Disk disk) {
        boolean here = attached.isAttached(disk.id());
        return new Wire.DiskDetail(Wire.DiskLine.of(disk, here), disk.seenAt(), disk.removedAt(), disk.remarks(),
            here ? gaps.of(disk.id()) : List.of(),
            inventory.readingsOf(disk.id()).stream().map(r -> new Wire.Reading(r.at(), r.usedBytes(), r.source())).toList(),
            here || disk.toReadBytes() == 0 ? null : learnt.of(disk.id(), disk.toReadBytes(), disk.identity().sizeBytes(), false));
    }

    /** One disk at hand, for the page that makes an image of it. */
    @GetMapping("/disks/{id}")
    Wire.DiskLine disk(@PathVariable String id) {
        return lines.all().stream().flatMap(computer -> computer.disks().stream()).filter(disk -> disk.id().equals(id)).findFirst()
            .orElseThrow(() -> Refused.notFound("disk"));
    }

    @PostMapping
    ResponseEntity<Wire.ComputerDetail> add(@Valid @RequestBody ComputerForm form, Principal who) {
        Computer added = inventory.add(form);
        journal.add(who.getName(), "add computer", added.name(), Journal.Result.DONE, added.name() + " was added by hand.");
        return ResponseEntity.status(HttpStatus.CREATED).body(detail(added).getBody());
    }

    @PutMapping("/{id}")
    ResponseEntity<Wire.ComputerDetail> change(@PathVariable UUID id, @RequestHeader("If-Match") String version,
        @Valid @RequestBody ComputerForm form, Principal who) {
        Map<String, String> before = Changes.fields(ComputerForm.of(inventory.one(id)));
        Computer changed = inventory.change(id, IfMatch.version(version), form);
        journal.add(who.getName(), "change computer", changed.name(), Journal.Result.DONE,
            changed.name() + ": " + Changes.sentence(before, Changes.fields(ComputerForm.of(changed))));
        return detail(changed);
    }

    /** @param on null when it is not known any more */
    record FilesSaved(@Schema(types = {
        "string", "null"}) LocalDate on, @NotNull @Size(max = 300, message = "may have at most 300 characters") String how){
    }

    /** Noted by hand: an image is no substitute for saving files by other means. */
    @PutMapping("/{id}/files-saved")
    ResponseEntity<Wire.ComputerDetail> filesSaved(@PathVariable UUID id, @Valid @RequestBody FilesSaved saved, Principal who) {
        Computer computer = inventory.filesSaved(id, saved.on, saved.how.strip());
        journal.add(who.getName(), "files saved", computer.name(), Journal.Result.NOTE,
            saved.on == null ? "Nobody noted when the files of " + computer.name() + " were last backed up."
                : "The files of " + computer.name() + " were last backed up on " + saved.on
                    + (saved.how.isBlank() ? "." : ": " + saved.how.strip() + "."));
        return detail(computer);
    }

    @PostMapping("/{id}/disks")
    ResponseEntity<Wire.ComputerDetail> addDisk(@PathVariable UUID id, @Valid @RequestBody DiskForm form, Principal who) {
        Computer computer = inventory.addDisk(id, form);
        journal.add(who.getName(), "add disk", computer.name(), Journal.Result.DONE,
            form.model() + " " + form.serial() + ", " + Sizes.decimal(form.sizeBytes()) + ", was added to "
                + computer.name() + " by hand.");
        return ResponseEntity.status(HttpStatus.CREATED).body(detail(computer).getBody());
    }

    @DeleteMapping("/{id}/disks/{diskId}")
    ResponseEntity<Wire.ComputerDetail> removeDisk(@PathVariable UUID id, @PathVariable String diskId, Principal who) {
        if (attached.isAttached(diskId)) {
            throw new Refused(HttpStatus.CONFLICT, "attached", "",
                "This disk is attached right now, so it is there. Detach it first, or leave it in the list.");
        }
        Disk removed = inventory.removeDisk(id, diskId);
        Computer computer = inventory.one(id);
        journal.add(who.getName(), "remove disk", computer.name(), Journal.Result.DONE,
            removed.identity().model() + " " + removed.identity().serial() + " is no longer in " + computer.name()
                + ". Its images stay.");
        return detail(computer);
    }

    /** @param retired whether it is taken out of use; its disks and images stay */
    record Retirement(boolean retired) {
    }

    @PostMapping("/{id}/retirement")
    ResponseEntity<Wire.ComputerDetail> retire(@PathVariable UUID id, @RequestBody Retirement retirement, Principal who) {
        Computer computer = inventory.retire(id, retirement.retired());
        journal.add(who.getName(), retirement.retired() ? "retire computer" : "bring computer back", computer.name(), Journal.Result.DONE,
            computer.name()
                + (retirement.retired() ? " was retired. Its images stay." : " is in use again."));
        return detail(computer);
    }
}
