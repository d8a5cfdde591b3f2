package app.granary.server.retention;

import app.granary.core.measure.Sizes;
import app.granary.core.retention.RetentionPolicy;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeChoices;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What is kept and what may go, releasing it, and taking it back. */
@RestController
@RequestMapping("/api/v1/retention")
class RetentionController {
    private final DryRuns dryRuns;
    private final Releases releases;
    private final Holds holds;
    private final OfficeChoices choices;

    RetentionController(DryRuns dryRuns, Releases releases, Holds holds, OfficeChoices choices) {
        this.dryRuns = dryRuns;
        this.releases = releases;
        this.holds = holds;
        this.choices = choices;
    }

    /** @param proof strokes of its tally, 0 to 5 */
    record KeptCopy(UUID id, String destination, long storedBytes, int proof, boolean damaged) {
        static KeptCopy from(Images.Standings copy) {
            return new KeptCopy(copy.id(), copy.destination(), copy.storedBytes(),
                copy.standing().level().map(level -> level.ordinal() + 1).orElse(0), copy.standing().damaged());
        }
    }

    /**
     * An image; its copies stay or go together.
     *
     * @param storedBytes what all copies take
     * @param rule        the rule that decided, as a word
     * @param why         the same as a sentence with its figures
     */
    record KeptLine(UUID id, String name, Instant madeAt, long storedBytes, boolean kept, String rule, String why, List<KeptCopy> copies) {
        static KeptLine from(DryRuns.Decided decided) {
            Images.Standings any = decided.any();
            return new KeptLine(any.imageId(), any.name(), any.madeAt(), decided.bytes(), decided.decision().kept(),
                decided.decision().rule().word(), decided.decision().why(),
                decided.copies().stream().map(each -> KeptCopy.from(each.copy())).toList());
        }
    }

    /** @param policies what its plans keep, as sentences */
    record DiskKept(String computer, String disk, String diskId, List<String> policies, boolean automatic, List<KeptLine> images) {
    }

    /** What a destination would get back. */
    record GivenBack(String destination, int copies, long bytes) {
    }

    /**
     * @param state     "waiting" for its drive, "trash", "failed", "taken-back" or "emptied"
     * @param emptiedOn from when its room may be given back; null while it is not in the trash
     */
    record ReleaseLine(UUID id, UUID imageId, String name, String disk, String destination, long bytes, String why, Instant askedAt,
        String askedBy, String state, String trouble,
        @Schema(types = {
            "string", "null"}) Instant emptiedOn){
    }

    /** @param policy the office's own, as a sentence */
    record DryRun(String sentence, String policy, List<DiskKept> disks, List<GivenBack> back, List<ReleaseLine> released) {
    }

    @GetMapping
    DryRun dryRun() {
        List<DiskKept> disks = dryRuns.all().stream()
            .map(d -> new DiskKept(d.computer(), d.disk(), d.diskId(), d.policies().stream().map(RetentionPolicy::words).toList(),
                d.automatic(),
                d.images().stream().map(KeptLine::from).toList()))
            .toList();
        List<KeptLine> gone = disks.stream().flatMap(disk -> disk.images().stream()).filter(line -> !line.kept()).toList();
        List<GivenBack> back = gone.stream().flatMap(line -> line.copies().stream())
            .collect(Collectors.groupingBy(KeptCopy::destination, TreeMap::new, Collectors.toList())).entrySet().stream()
            .map(each -> new GivenBack(each.getKey(), each.getValue().size(),
                each.getValue().stream().mapToLong(KeptCopy::storedBytes).sum()))
            .toList();
        long all = disks.stream().mapToLong(disk -> disk.images().size()).sum();
        return new DryRun(sentence(all, gone), choices.keeping().policy().words(), disks, back,
            releases.newest().stream().map(this::line).toList());
    }

    /** Counts alone, for who only wants to know whether anything could go. */
    record RetentionSummary(String sentence, long images, long going) {
    }

    @GetMapping("/summary")
    RetentionSummary summary() {
        List<DryRuns.Decided> all = dryRuns.all().stream().flatMap(d -> d.images().stream()).toList();
        List<KeptLine> gone = all.stream().filter(each -> !each.decision().kept()).map(KeptLine::from).toList();
        return new RetentionSummary(sentence(all.size(), gone), all.size(), gone.size());
    }

    private static String sentence(long all, List<KeptLine> gone) {
        if (all == 0) {
            return "There is no image yet to keep or release.";
        }
        if (gone.isEmpty()) {
            return all == 1 ? "The one image stays." : "All " + all + " images stay.";
        }
        return gone.size() + " of " + all + " images could go, and would give back "
            + Sizes.decimal(gone.stream().mapToLong(KeptLine::storedBytes).sum()) + ".";
    }

    private ReleaseLine line(ImageRelease r) {
        return new ReleaseLine(r.id(), r.copyId(), r.imageName(), r.disk(), r.destination(), r.bytes(), r.why(), r.askedAt(), r.askedBy(),
            r.state().word(), r.trouble(),
            r.state() == ImageRelease.State.TRASH ? r.movedAt().plus(Duration.ofDays(choices.trashDays())) : null);
    }

    /**
     * What a person saw and agreed to.
     *
     * @param images identities of images; each goes with all its copies
     */
    record ReleaseForm(@NotEmpty(message = "names no image") @Size(max = 5000,
        message = "may have at most 5000 images at a time") List<@NotNull UUID> images) {
    }

    @PostMapping("/releases")
    DryRun release(@Valid @RequestBody ReleaseForm form, Principal who) {
        releases.release(form.images, who.getName());
        return dryRun();
    }

    @PostMapping("/releases/{id}/take-back")
    DryRun takeBack(@PathVariable UUID id, Principal who) throws IOException {
        releases.takeBack(id, who.getName());
        return dryRun();
    }

    /** Tries again what could not be moved. */
    @PostMapping("/releases/again")
    DryRun again() {
        releases.carryOut();
        return dryRun();
    }

    /** @param until the last day it stands; null until it is ended */
    record HoldLine(UUID id, String reason, @Schema(types = {
        "string", "null"}) LocalDate until, Instant placedAt, String placedBy){
    }

    /** @param why what is decided of the image, as a sentence; an empty string for one nothing is decided of */
    record ImageKept(boolean kept, String why, List<HoldLine> holds) {
    }

    @GetMapping("/images/{id}")
    ImageKept image(@PathVariable UUID id) {
        List<HoldLine> held = holds.of(id).stream().map(h -> new HoldLine(h.id(), h.reason(), h.untilDay(), h.placedAt(), h.placedBy()))
            .toList();
        return dryRuns.of(holds.diskOf(id)).stream().flatMap(disk -> disk.images().stream()).filter(each -> each.holds(id)).findFirst()
            .map(each -> new ImageKept(each.decision().kept(), each.decision().why(), held)).orElse(new ImageKept(false, "", held));
    }

    /** @param until the last day it stands; null until somebody ends it */
    record HoldForm(
        @NotBlank(message = "is needed: say why it must stay") @Size(max = 300, message = "may have at most 300 characters") String reason,
        @Schema(types = {
            "string", "null"}) LocalDate until){
    }

    @PostMapping("/images/{id}/holds")
    ImageKept hold(@PathVariable UUID id, @Valid @RequestBody HoldForm form, Principal who) {
        holds.place(id, form.reason.strip(), form.until, who.getName());
        return image(id);
    }

    @PostMapping("/images/{id}/holds/{hold}/end")
    ImageKept endHold(@PathVariable UUID id, @PathVariable UUID hold, Principal who) {
        holds.end(id, hold, who.getName());
        return image(id);
    }
}
