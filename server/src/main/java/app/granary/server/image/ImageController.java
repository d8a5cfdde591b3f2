package app.granary.server.image;

import app.granary.core.measure.Sizes;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import app.granary.core.restore.Restorable;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageStore;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The shelf of images, and the evidence for each. */
@RestController
@RequestMapping("/api/v1/images")
class ImageController {
    private final Images images;
    private final ImageRecords imageRecords;
    private final Elsewhere elsewhere;
    private final ImageStore store;
    private final Journal journal;
    private final Moves moves;
    private final Clock clock;

    ImageController(Images images, ImageRecords imageRecords, Elsewhere elsewhere, ImageStore store, Journal journal, Moves moves,
        Clock clock) {
        this.moves = moves;
        this.images = images;
        this.imageRecords = imageRecords;
        this.elsewhere = elsewhere;
        this.store = store;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * @param proof  strokes of its tally: complete, sound, readable, rehearsed; 5 with the bar across them; 0 when nothing is proven, or
     *               its last check found damage
     * @param level  the word for that; an empty string for nothing
     * @param stale  whether it is to be checked again
     * @param partly what of its disk it does not hold, "partly: without recovery"; an empty string for an image of the whole disk
     * @param origin "made", "copied", "found" or "paper"
     * @param shelf  "kept", "released" for one that can be taken back from the trash, "gone"
     * @param restorable whether Granary can write it back onto a disk
     * @param format "granary", "other" for files of other tools, "unseen" for a line from a paper log
     */
    record ImageLine(UUID id, String name, String computer, String disk, String serial, String destination, String destinationId,
        Instant madeAt, String madeBy, String codec, int level, long rawBytes,
        long usedBytes, long storedBytes, long lowBytes, long likelyBytes, long highBytes, int proof, String proven, boolean damaged,
        boolean stale, int recheckDays, boolean encrypted,
        long badBytes, int badPlaces, String origin, String format, String note, String location, @Schema(types = {
            "string", "null"}) Instant checkedAt,
        String shelf, String partly, boolean restorable){
    }

    /**
     * @param problems empty when the check found none
     * @param lost     files that lie on damage
     * @param good     what is still restorable, in a sentence; empty when there is no damage
     * @param seconds  how long it took; 0 when it was part of something else
     */
    record Check(Instant checkedAt, String checkedBy, String level, boolean ok, long readBytes, double seconds, List<Problem> problems,
        List<LostFiles> lost, String good, String note) {
    }

    record Detail(ImageLine image, List<ImageLine> copies, List<Check> checks) {
    }

    @GetMapping
    List<ImageLine> all() {
        return images.all().stream().map(this::line).toList();
    }

    /**
     * @param total       how many match
     * @param storedBytes of those
     * @param damaged     how many of those
     */
    record ImagePage(List<ImageLine> lines, int total, long storedBytes, long damaged) {
    }

    /**
     * One page of the shelf.
     *
     * @param text words that stand in the name, computer, disk, serial or destination
     * @param sort "computer", "madeAt", "storedBytes", "usedBytes", "destination", "proof" or "checkedAt"
     * @param page 0 and up
     */
    @GetMapping("/page")
    ImagePage page(@RequestParam(defaultValue = "") String text, @RequestParam(defaultValue = "madeAt") String sort,
        @RequestParam(defaultValue = "true") boolean descending,
        @RequestParam(defaultValue = "0") @Min(0) int page, @RequestParam(defaultValue = "50") @Min(1) @Max(200) int size) {
        List<ImageShelf.Kept> found = ShelfOrder.matching(images.all(), text);
        List<ImageShelf.Kept> sorted = ShelfOrder.sorted(found, sort, descending);
        int from = (int) Math.min(sorted.size(), (long) page * size);
        return new ImagePage(sorted.subList(from, Math.min(sorted.size(), from + size)).stream().map(this::line).toList(), found.size(),
            found.stream().mapToLong(each -> each.copy().storedBytes()).sum(),
            found.stream().filter(each -> each.standing().damaged()).count());
    }

    @GetMapping("/{id}")
    Detail one(@PathVariable UUID id) {
        Copy one = images.one(id);
        List<ImageCheck> checks = images.checksOf(id);
        return new Detail(line(Images.kept(one, checks)),
            images.copiesOf(one).stream().map(copy -> line(Images.kept(copy, images.checksOf(copy.id())))).toList(),
            checks.stream().map(c -> check(one.image(), c)).toList());
    }

    private Check check(Image image, ImageCheck c) {
        List<Problem> problems = images.problemsOf(c);
        return new Check(c.checkedAt(), c.checkedBy(), c.level().word(), c.ok(), c.readBytes(), c.seconds(), problems, images.lostOf(c),
            good(image, problems), c.note());
    }

    /** What the image says of itself where it lies; refused when its drive is not attached. */
    @GetMapping("/{id}/facts")
    ImageFacts facts(@PathVariable UUID id) throws IOException {
        return switch (images.shelved(id).format()) {
            case GRANARY -> store.facts(images.at(id, Passphrase.NONE));
            case OTHER -> elsewhere.facts(id);
            case UNSEEN ->
                throw new Refused(HttpStatus.CONFLICT, "unseen", "", "Its files were never seen; only the paper log tells of it.");
        };
    }

    private static String good(Image image, List<Problem> problems) {
        long lost = problems.stream().mapToLong(p -> p.diskEndBytes() - p.diskStartBytes()).sum();
        if (problems.isEmpty()) {
            return "";
        }
        return lost == 0 ? "Nothing of the disk's own content is known to be lost."
            : "At most " + Sizes.decimal(lost) + " of the disk are in doubt; everything else, of "
                + Sizes.decimal(image.rawBytes()) + ", can still be restored.";
    }

    private ImageLine line(ImageShelf.Kept kept) {
        Image i = kept.image();
        Copy copy = kept.copy();
        Standing standing = kept.standing();
        return new ImageLine(copy.id(), i.name(), i.computer(), i.disk(), i.serial(), copy.destination(), copy.destinationId(), i.madeAt(),
            copy.laidBy(), i.codec(), i.level(), i.rawBytes(), i.usedBytes(),
            copy.storedBytes(), i.lowBytes(), i.likelyBytes(), i.highBytes(), standing.level().map(level -> level.ordinal() + 1).orElse(0),
            standing.level().map(ProofLevel::word).orElse(""),
            standing.damaged(), i.origin() != Image.Origin.PAPER && standing.stale(clock.instant()), i.recheckDays(), i.encrypted(),
            i.badBytes(), i.badPlaces(), copy.copied() ? "copied" : i.origin().word(),
            Images.format(i).name().toLowerCase(java.util.Locale.ROOT), i.note(), copy.folder(),
            kept.checkedAt().orElse(null), copy.shelf().word(), partly(copy),
            Restorable.is(Images.format(i) != Images.Format.UNSEEN, i.lacks(), copy.isKept()));
    }

    private static String partly(Copy copy) {
        String image = copy.image().lacks().words();
        return copy.lacks().equals(copy.image().lacks()) ? image : image + (image.isEmpty() ? "" : "; ") + copy.lacks().words();
    }

    /**
     * @param folder on its drive, with slashes; an empty string for the one Granary keeps its images in
     * @param name   its name from then on
     */
    record MoveTo(@NotNull @Size(max = 200, message = "may have at most 200 characters") String folder,
        @NotBlank(message = "is needed") @Size(max = 100, message = "may have at most 100 characters") String name) {
    }

    /** Moves it on its drive, or gives it another name. */
    @PutMapping("/{id}/place")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void move(@PathVariable UUID id, @Valid @RequestBody MoveTo to, Principal who) throws IOException {
        moves.move(id, to.folder, to.name.strip(), who.getName());
    }

    record Comment(@NotNull @Size(max = 2000, message = "may have at most 2000 characters") String text) {
    }

    @PutMapping("/{id}/note")
    Detail comment(@PathVariable UUID id, @Valid @RequestBody Comment comment, Principal who) {
        imageRecords.comment(id, comment.text().strip());
        journal.add(who.getName(), "note", images.shelved(id).computer() + " " + images.shelved(id).disk(), Journal.Result.NOTE,
            "Of image " + images.shelved(id).name() + ": " + comment.text().strip());
        return one(id);
    }

    record Booted(@NotBlank(message = "is needed: say what you looked at") @Size(max = 2000,
        message = "may have at most 2000 characters") String lookedAt) {
    }

    /** A person's signature that a computer was started from it. */
    @PostMapping("/{id}/booted")
    Detail booted(@PathVariable UUID id, @Valid @RequestBody Booted booted, Principal who) {
        imageRecords.signBooted(id, booted.lookedAt().strip(), who.getName());
        journal.add(who.getName(), "sign", images.shelved(id).computer() + " " + images.shelved(id).disk(), Journal.Result.DONE,
            who.getName() + " signs that image " + images.shelved(id).name()
                + " was booted. Looked at: " + booted.lookedAt().strip());
        return one(id);
    }
}
