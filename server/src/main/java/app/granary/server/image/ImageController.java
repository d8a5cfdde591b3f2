package app.granary.server.image;

import app.granary.core.proof.Problem;
import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The shelf of images, and the evidence for each. */
@RestController
@RequestMapping("/api/v1/images")
class ImageController {
    private final Images images;

    ImageController(Images images) {
        this.images = images;
    }

    /**
     * @param proof strokes of its tally, by its last check: complete, sound, readable; 0 when that check found damage
     */
    record ImageLine(UUID id, String name, String computer, String disk, String serial, String destination, Instant madeAt, String madeBy, String codec, int level,
                     long rawBytes, long usedBytes, long storedBytes, long lowBytes, long likelyBytes, long highBytes, int proof, boolean damaged, @Schema(types = {"string", "null"}) Instant checkedAt) {
    }

    /** @param problems empty when the check found none */
    record Check(Instant checkedAt, String checkedBy, String depth, boolean ok, long readBytes, List<Problem> problems) {
    }

    record Detail(ImageLine image, List<Check> checks) {
    }

    @GetMapping
    List<ImageLine> all() {
        return images.all().stream().map(this::line).toList();
    }

    @GetMapping("/{id}")
    Detail one(@PathVariable UUID id) {
        Image image = images.one(id);
        return new Detail(line(image), images.checksOf(id).stream().map(c -> new Check(c.checkedAt(), c.checkedBy(), c.depth().word(), c.ok(), c.readBytes(),
            images.problemsOf(c))).toList());
    }

    private ImageLine line(Image i) {
        List<ImageCheck> checks = images.checksOf(i.id());
        boolean damaged = !checks.isEmpty() && !checks.get(0).ok();
        int proof = checks.isEmpty() || damaged ? 0 : checks.get(0).depth().ordinal() + 1;
        return new ImageLine(i.id(), i.name(), i.computer(), i.disk(), i.serial(), i.destination(), i.madeAt(), i.madeBy(), i.codec(), i.level(), i.rawBytes(),
            i.usedBytes(), i.storedBytes(), i.lowBytes(), i.likelyBytes(), i.highBytes(), proof, damaged, checks.isEmpty() ? null : checks.get(0).checkedAt());
    }
}
