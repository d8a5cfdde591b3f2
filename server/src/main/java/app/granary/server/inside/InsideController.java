package app.granary.server.inside;

import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FileLine;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderSearch;
import app.granary.engine.host.Insides;
import app.granary.server.image.Images;
import app.granary.server.queue.Passphrases;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Folders and files in an image. What it shows is private to the computer's people, so a viewer does not see it. */
@RestController
@RequestMapping("/api/v1/inside/{imageId}")
class InsideController {
    private static final int MOST_LINES = 500;
    private static final long SEARCH_MILLIS = 15_000;

    private final Looks looks;
    private final Fetches fetches;
    private final Images images;
    private final Insides insides;

    InsideController(Looks looks, Fetches fetches, Images images, Insides insides) {
        this.looks = looks;
        this.fetches = fetches;
        this.images = images;
        this.insides = insides;
    }

    record OtherImage(UUID id, String name, Instant madeAt, String destination, boolean attached) {
    }

    /**
     * @param locked  whether its passphrase is needed first; then there are no volumes
     * @param volumes in the order of the table; number 0 for a disk without one
     * @param others  images of the same disk, newest first
     */
    record Inside(UUID id, String name, String computer, String disk, Instant madeAt, long diskBytes, String destination, boolean locked,
        List<DiskFiles.Volume> volumes, List<OtherImage> others) {
    }

    @GetMapping
    Inside inside(@PathVariable UUID imageId, Principal who) throws IOException {
        Images.Shelved image = looks.shelved(imageId);
        boolean locked = looks.locked(imageId, who.getName());
        return new Inside(imageId, image.name(), image.computer(), image.disk(), looks.madeAt(imageId), images.rawBytesOf(imageId),
            image.destination(), locked, locked ? List.of() : insides.volumes(looks.at(imageId, who.getName())),
            looks.others(imageId).stream()
                .map(each -> new OtherImage(each.id(), each.name(), each.madeAt(), each.destination(), each.attached())).toList());
    }

    record Secret(@NotNull @Size(min = 1, max = 1000, message = "is needed") String passphrase) {
        @Override
        public String toString() {
            return "a passphrase";
        }
    }

    @PostMapping("/unlock")
    Inside unlock(@PathVariable UUID imageId, @Valid @RequestBody Secret secret, Principal who) throws IOException {
        looks.unlock(imageId, who.getName(), Passphrases.told(secret.passphrase));
        return inside(imageId, who);
    }

    /**
     * @param bytes of the files in the folder; null where not each was read for the answer, as of a large folder that is not weighed
     */
    record Folder(int total, @Schema(types = {"integer", "null"}) Long bytes, int matching, List<FileLine> lines) {
    }

    /**
     * @param place partition number, colon, path: "2:/home/ada"
     * @param text that stands in the names, case not counted
     * @param sort "name", "bytes" or "modified"; folders come first
     * @param from 0 and up
     * @param weighed whether the bytes of all files in the folder are wanted, however many it has
     */
    @GetMapping("/folder")
    Folder folder(@PathVariable UUID imageId, @RequestParam String place, @RequestParam(defaultValue = "") String text,
        @RequestParam(defaultValue = "name") String sort, @RequestParam(defaultValue = "false") boolean descending,
        @RequestParam(defaultValue = "0") @Min(0) int from, @RequestParam(defaultValue = "200") @Min(1) @Max(MOST_LINES) int most,
        @RequestParam(defaultValue = "false") boolean weighed, Principal who) throws IOException {
        FolderPage.Sort by = switch (sort) {
            case "bytes" -> FolderPage.Sort.BYTES;
            case "modified" -> FolderPage.Sort.MODIFIED;
            default -> FolderPage.Sort.NAME;
        };
        FolderPage page = insides.list(looks.at(imageId, who.getName()), FilePlace.parse(place), new FolderPage.Asked(text, by, descending,
            from, most, weighed));
        return new Folder(page.total(), Working.orNull(page.bytes()), page.matching(), page.lines());
    }

    /** Names in which a text stands, in a folder and all below it; what is found in a quarter of a minute. */
    @GetMapping("/search")
    FolderSearch search(@PathVariable UUID imageId, @RequestParam String place, @RequestParam @NotBlank String text, Principal who)
        throws IOException {
        return insides.search(looks.at(imageId, who.getName()), FilePlace.parse(place), text, SEARCH_MILLIS);
    }

    @GetMapping("/file")
    FileFacts file(@PathVariable UUID imageId, @RequestParam String place, Principal who) throws IOException {
        return insides.file(looks.at(imageId, who.getName()), FilePlace.parse(place));
    }

    /**
     * The same file in another image of the disk.
     *
     * @param same "same", "other", "as_long" when it is too long to be compared, "missing", "locked", "away" when its drive is
     * @param bytes      0 unless it is there
     * @param modifiedAt null unless it is there
     */
    record FileInOther(String same, long bytes, @Schema(types = {"string", "null"}) Instant modifiedAt) {
    }

    @GetMapping("/same")
    FileInOther same(@PathVariable UUID imageId, @RequestParam String place, @RequestParam UUID other, Principal who) throws IOException {
        Looks.InOther found = looks.compare(imageId, other, FilePlace.parse(place), who.getName());
        return new FileInOther(found.same().name().toLowerCase(Locale.ROOT), found.line().map(FileLine::bytes).orElse(0L),
            found.line().map(FileLine::modifiedAt).orElse(null));
    }

    record PutOnto(@NotBlank String place, @NotBlank(message = "choose a destination") String destinationId) {
    }

    /** Where it is now, in a sentence. */
    record PutThere(String sentence) {
    }

    /** Puts a file, or a folder as a ZIP, onto a destination, into a folder of its own. */
    @PostMapping("/put")
    PutThere put(@PathVariable UUID imageId, @Valid @RequestBody PutOnto wanted, Principal who) throws IOException {
        return new PutThere(fetches.put(imageId, FilePlace.parse(wanted.place), wanted.destinationId, who.getName()));
    }
}
