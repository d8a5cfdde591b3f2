package app.granary.server.image;

import app.granary.core.image.Owner;
import app.granary.core.measure.Sizes;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Semaphore;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Images made elsewhere: looked for in a folder, taken on, or written down from paper. */
@RestController
@RequestMapping("/api/v1/elsewhere")
class ElsewhereController {
    private final Semaphore looking = new Semaphore(1);
    private final Elsewhere elsewhere;
    private final Images images;
    private final Journal journal;

    ElsewhereController(Elsewhere elsewhere, Images images, Journal journal) {
        this.elsewhere = elsewhere;
        this.images = images;
        this.journal = journal;
    }

    /**
     * An image that lies in the folder.
     *
     * @param folder    relative to the destination
     * @param granarys  whether it is in Granary's own format
     * @param digests   how many of its files a list gives digests for; all of them count where a list speaks of the whole
     * @param inside    what its start tells, in words; remark what to know of it, or an empty string
     * @param sizeBytes of the disk in it; null until it is unpacked
     * @param diskId    the disk it is of; an empty string when that cannot be told
     * @param why       by what that is known
     * @param trouble   why it cannot be added as it is; an empty string when it can
     */
    record FoundLine(String folder, String name, boolean granarys, int files, int digests, long storedBytes, Instant writtenAt,
        String inside, String remark,
        @Schema(types = {
            "integer", "null"}) Long sizeBytes,
        String diskId, String why, boolean onShelf, String trouble){
        static FoundLine from(Elsewhere.FoundImage found) {
            ElsewhereImage i = found.image();
            boolean whole = !i.joinedDigest().isEmpty() || !i.contentDigest().isEmpty();
            int digests = whole ? i.files().size() : (int) i.files().stream().filter(file -> !file.digest().isEmpty()).count();
            return new FoundLine(i.folder(), i.name(), i.kind() == ElsewhereImage.Kind.GRANARY, i.files().size(), digests, i.storedBytes(),
                i.writtenAt(), i.inside().words(), i.inside().remark(),
                i.inside().sizeBytes().isPresent() ? i.inside().sizeBytes().getAsLong() : null, found.owner().map(Owner::diskId).orElse(""),
                found.owner().map(Owner::why).orElse(""), found.onShelf(),
                i.trouble());
        }
    }

    /** @param all false when there is more than Granary looks at; name a folder further down then */
    record Found(List<FoundLine> images, boolean all) {
    }

    @GetMapping
    Found look(@RequestParam String destinationId, @RequestParam(defaultValue = "") @Size(max = 1000) String folder) throws IOException {
        if (!looking.tryAcquire()) {
            throw new Refused(HttpStatus.CONFLICT, "busy", "destinationId",
                "Someone is looking through a drive already, and a drive is slow for two. Wait until that is done, and look again.");
        }
        Elsewhere.Found found;
        try {
            found = elsewhere.look(destinationId, folder.strip());
        } finally {
            looking.release();
        }
        return new Found(found.images().stream().map(FoundLine::from).toList(), found.all());
    }

    /** @param lookedIn the folder that was looked in, folder where the image lies */
    record Taking(@NotBlank(message = "must be chosen") String destinationId, @NotNull @Size(max = 1000) String lookedIn,
        @NotNull @Size(max = 1000) String folder, @NotBlank @Size(max = 1000) String name,
        @NotBlank(message = "must be chosen") String diskId, @NotNull(message = "is needed") Instant madeAt) {
    }

    record Added(UUID id) {
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    Added add(@Valid @RequestBody Taking taking, Principal who) throws IOException {
        UUID id = elsewhere.add(
            new Elsewhere.Taking(taking.destinationId, taking.lookedIn.strip(), taking.folder, taking.name, taking.diskId, taking.madeAt),
            who.getName());
        Images.Shelved image = images.shelved(id);
        journal.add(who.getName(), "add image", image.computer() + " " + image.disk(), Journal.Result.DONE,
            image.name() + " on " + image.destination() + (image.folder().isEmpty() ? "" : ", folder "
                + image.folder()) + ", made elsewhere, " + Sizes.decimal(image.storedBytes())
                + ", is on the shelf as an image of it; not checked yet.");
        return new Added(id);
    }

    /** @param folder of the destination, where the file lies */
    record Keeping(@NotBlank(message = "must be chosen") String destinationId, @NotNull @Size(max = 1000) String folder,
        @NotBlank(message = "is needed") @Size(max = 1000) String name, @NotBlank(message = "must be chosen") String diskId,
        @NotNull(message = "is needed") Instant madeAt) {
    }

    /** Takes a file on that nobody can look into, by its length and its digest alone. */
    @PostMapping("/kept")
    @ResponseStatus(HttpStatus.CREATED)
    Added keep(@Valid @RequestBody Keeping keeping, Principal who) throws IOException {
        String folder = keeping.folder.strip();
        UUID id = elsewhere.keep(new Elsewhere.Taking(keeping.destinationId, folder, folder, keeping.name.strip(), keeping.diskId,
            keeping.madeAt), who.getName());
        Images.Shelved image = images.shelved(id);
        journal.add(who.getName(), "add image", image.computer() + " " + image.disk(), Journal.Result.DONE,
            image.name() + " on " + image.destination() + ", " + Sizes.decimal(image.storedBytes())
                + ", is kept as found, as of it; what is "
                + "in it nobody can tell.");
        return new Added(id);
    }

    /** @param storedBytes 0 when the log does not tell */
    record PaperLine(@NotBlank(message = "must be chosen") String diskId,
        @NotBlank(message = "is needed") @Size(max = 200, message = "is longer than 200 characters") String name,
        @NotBlank(message = "is needed: a drive, a shelf, an envelope") @Size(max = 200,
            message = "is longer than 200 characters") String where,
        @NotNull(message = "is needed") Instant madeAt,
        @Min(value = 0, message = "is 0 or more") long storedBytes,
        @NotNull @Size(max = 2000, message = "may have at most 2000 characters") String note) {
    }

    @PostMapping("/paper")
    @ResponseStatus(HttpStatus.CREATED)
    Added paper(@Valid @RequestBody PaperLine line, Principal who) {
        UUID id = elsewhere.addPaper(
            new Elsewhere.PaperLine(line.diskId, line.name.strip(), line.where.strip(), line.madeAt, line.storedBytes, line.note.strip()),
            who.getName());
        Images.Shelved image = images.shelved(id);
        journal.add(who.getName(), "add image", image.computer() + " " + image.disk(), Journal.Result.NOTE,
            image.name() + " at " + image.destination() + " is written down from a paper log; its files were not seen.");
        return new Added(id);
    }
}
