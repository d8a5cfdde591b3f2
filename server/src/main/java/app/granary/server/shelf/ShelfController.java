package app.granary.server.shelf;

import app.granary.core.shelf.CopyOnShelf;
import app.granary.core.shelf.ImageOnShelf;
import app.granary.core.shelf.ShelfView;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import app.granary.server.retention.Holds;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Images by disk, each once, with the copies it lies in. */
@RestController
@RequestMapping("/api/v1/shelf")
class ShelfController {
    /** Of a disk, before the others are asked for. */
    private static final int NEWEST = 3;

    private final Images images;
    private final Holds holds;
    private final Destinations destinations;
    private final DisksOnRecord disks;
    private final Clock clock;
    private volatile Found last = Found.of(List.of(), Instant.EPOCH);

    ShelfController(Images images, Holds holds, Destinations destinations, DisksOnRecord disks, Clock clock) {
        this.images = images;
        this.holds = holds;
        this.destinations = destinations;
        this.disks = disks;
        this.clock = clock;
    }

    /**
     * @param destination   its name, or the place a paper log tells
     * @param destinationId an empty string for a line of a paper log
     * @param proof         strokes of its tally, 0 to 5
     * @param stale         whether it is to be checked again
     */
    record ShelfCopy(UUID id, String destinationId, String destination, boolean attached, int proof, boolean damaged, boolean stale,
        boolean released, long storedBytes) {
    }

    /**
     * @param storedBytes what one copy takes
     * @param usedBytes   what was read for it; 0 where nobody knows
     * @param origin      "made", "found" or "paper"
     * @param partly      what of its disk it does not hold, "partly: without recovery"; empty for the whole disk
     * @param held        why it is held; empty when it is not
     * @param bootedBy    who signed that a computer was started from it; empty when nobody did
     * @param repairFrom    the copy a damaged one can be repaired from; null when there is none
     * @param copies      the one proven furthest first
     */
    record ShelfImage(UUID id, String name, Instant madeAt, long storedBytes, long usedBytes, String origin, boolean encrypted,
        long badBytes, String partly, String held, String bootedBy,
        @Schema(types = {
            "string", "null"}) UUID repairFrom,
        List<ShelfCopy> copies){
    }

    /**
     * @param sizeBytes of the disk; 0 where nobody knows
     * @param images    how many there are of it
     * @param newest    the newest of them
     * @param oldestAt  when the oldest was made
     */
    record ShelfDisk(String diskId, String computer, String disk, long sizeBytes, int images, Instant oldestAt, List<ShelfImage> newest) {
    }

    /** @param copies that lie there */
    record ShelfDrive(String id, String name, long copies) {
    }

    /** How much there is, of what is not released. */
    record ShelfFigures(int images, int disks, int copies, long storedBytes, int damaged, int twins) {
    }

    /**
     * @param figures   of all that match the words
     * @param oneCopy   how many images of those have one copy only
     * @param notProven how many were not proven lately
     * @param damaged   how many have a damaged copy
     * @param disks     one page of them, by computer
     * @param allDisks  how many disks match
     */
    record ShelfPage(ShelfFigures figures, List<ShelfDrive> drives, int oneCopy, int notProven, int damaged, List<ShelfDisk> disks,
        int allDisks) {
    }

    /**
     * What is the same at every visit while nothing changes.
     *
     * @param of what it is made of
     */
    private record Found(List<Images.OnShelf> of, Map<String, Images.OnShelf> byCopy, ShelfView all, ShelfView.Figures figures,
        List<ShelfDrive> drives, int oneCopy, int damaged) {
        static Found of(List<Images.OnShelf> found, Instant now) {
            Map<String, Images.OnShelf> byCopy = found.stream()
                .collect(Collectors.toMap(each -> each.copy().id().toString(), Function.identity()));
            ShelfView all = ShelfView.of(found.stream().map(ShelfController::copy).toList());
            return new Found(found, byCopy, all, all.figures(), ShelfController.drives(byCopy, all),
                all.count(ShelfView.Show.ONE_COPY, now),
                all.count(ShelfView.Show.DAMAGED, now));
        }
    }

    /** All of them are put in order once for as long as nothing changes: nearly every visit asks for them. */
    private Found find(String text) {
        List<Images.OnShelf> found = images.onShelf(text);
        Found before = last;
        if (before.of == found) {
            return before;
        }
        Found now = Found.of(found, clock.instant());
        if (text.isBlank()) {
            last = now;
        }
        return now;
    }

    private static CopyOnShelf copy(Images.OnShelf each) {
        Images.Standings c = each.copy();
        return new CopyOnShelf(c.id().toString(), c.imageId().toString(), c.diskId(), c.madeAt(), c.destinationId(), c.storedBytes(),
            c.standing(), each.released(), !c.paper());
    }

    /**
     * @param text  words that stand in the name, computer, disk, serial or drive
     * @param drive identity of a destination that is to have a copy; empty for any
     * @param show  "all", "one-copy", "not-proven" or "damaged"
     * @param page  of disks, 0 and up
     */
    @GetMapping
    ShelfPage shelf(@RequestParam(defaultValue = "") @Size(max = 200) String text,
        @RequestParam(defaultValue = "") @Size(max = 200) String drive, @RequestParam(defaultValue = "all") String show,
        @RequestParam(defaultValue = "0") @Min(0) int page, @RequestParam(defaultValue = "20") @Min(1) @Max(100) int size)
        throws IOException {
        Instant now = clock.instant();
        Found found = find(text);
        Map<String, List<ImageOnShelf>> byDisk = found.all.only(shown(show), drive, now).byDisk();
        List<List<ImageOnShelf>> sorted = byDisk.values().stream()
            .sorted(Comparator.comparing((List<ImageOnShelf> ofDisk) -> first(found, ofDisk).computer())
                .thenComparing(ofDisk -> first(found, ofDisk).disk()))
            .toList();
        int from = (int) Math.min(sorted.size(), (long) page * size);
        Rows rows = rows(found);
        ShelfView.Figures f = found.figures;
        return new ShelfPage(new ShelfFigures(f.images(), f.disks(), f.copies(), f.storedBytes(), f.damaged(), f.twins()), found.drives,
            found.oneCopy, found.all.count(ShelfView.Show.NOT_PROVEN, now), found.damaged,
            sorted.subList(from, Math.min(sorted.size(), from + size)).stream().map(ofDisk -> rows.disk(ofDisk, NEWEST)).toList(),
            sorted.size());
    }

    /** All images of one disk that match, newest first. */
    @GetMapping("/disks/{diskId}")
    ShelfDisk ofDisk(@PathVariable String diskId, @RequestParam(defaultValue = "") @Size(max = 200) String text,
        @RequestParam(defaultValue = "") @Size(max = 200) String drive,
        @RequestParam(defaultValue = "all") String show) throws IOException {
        Found found = find(text);
        List<ImageOnShelf> ofDisk = found.all.only(shown(show), drive, clock.instant()).byDisk().getOrDefault(diskId, List.of());
        if (ofDisk.isEmpty()) {
            throw Refused.notFound("image");
        }
        return rows(found).disk(ofDisk, ofDisk.size());
    }

    private static ShelfView.Show shown(String word) {
        return Arrays.stream(ShelfView.Show.values()).filter(each -> each.word().equals(word)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "show", "Show all, one-copy, not-proven or damaged."));
    }

    private static Images.Standings first(Found found, List<ImageOnShelf> ofDisk) {
        return found.byCopy.get(ofDisk.get(0).copies().get(0).id()).copy();
    }

    private static List<ShelfDrive> drives(Map<String, Images.OnShelf> byCopy, ShelfView all) {
        Map<String, Long> counts = all.byDrive();
        Map<String, String> names = byCopy.values().stream().map(Images.OnShelf::copy)
            .collect(Collectors.toMap(Images.Standings::destinationId, Images.Standings::destination, (one, other) -> one));
        return counts.entrySet().stream().map(each -> new ShelfDrive(each.getKey(), names.get(each.getKey()), each.getValue()))
            .sorted(Comparator.comparing(ShelfDrive::copies).reversed().thenComparing(ShelfDrive::name)).toList();
    }

    private Rows rows(Found found) throws IOException {
        Set<String> attached = destinations.now().stream().filter(each -> each.attached()).map(each -> each.id())
            .collect(Collectors.toSet());
        return new Rows(found, attached, holds.reasons(), disks, clock.instant());
    }

    /** What is told of images on a page. */
    private record Rows(Found found, Set<String> attached, Map<UUID, String> held, DisksOnRecord disks, Instant now) {
        ShelfDisk disk(List<ImageOnShelf> ofDisk, int most) {
            Images.Standings any = first(found, ofDisk);
            long size = disks.find(any.diskId()).map(disk -> disk.identity().sizeBytes()).orElse(0L);
            return new ShelfDisk(any.diskId(), any.computer(), any.disk(), size, ofDisk.size(), ofDisk.get(ofDisk.size() - 1).madeAt(),
                ofDisk.stream().limit(most).map(this::row).toList());
        }

        private ShelfImage row(ImageOnShelf image) {
            Images.OnShelf best = found.byCopy.get(image.copies().get(0).id());
            Images.Standings c = best.copy();
            String bootedBy = image.copies().stream().map(copy -> found.byCopy.get(copy.id()).bootedBy().orElse(""))
                .filter(by -> !by.isEmpty()).findFirst().orElse("");
            return new ShelfImage(c.id(), c.name(), c.madeAt(), c.storedBytes(), best.usedBytes(), best.origin(), c.encrypted(),
                best.badBytes(), c.lacks().words(), held.getOrDefault(c.imageId(), ""), bootedBy,
                image.twin().map(twin -> UUID.fromString(twin.id())).orElse(null), image.copies().stream().map(this::line).toList());
        }

        private ShelfCopy line(CopyOnShelf copy) {
            Images.Standings c = found.byCopy.get(copy.id()).copy();
            return new ShelfCopy(c.id(), c.destinationId(), c.destination(), attached.contains(c.destinationId()),
                c.standing().level().map(level -> level.ordinal() + 1).orElse(0),
                c.standing().damaged(), !c.paper() && c.standing().stale(now), copy.released(), c.storedBytes());
        }
    }
}
