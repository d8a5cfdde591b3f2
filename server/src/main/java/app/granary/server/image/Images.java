package app.granary.server.image;

import app.granary.core.estimate.ImageHistory;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.engine.site.SiteImage;
import app.granary.server.estimate.Prospects;
import app.granary.server.problem.Refused;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The images this office has, and what is known of each. */
@Service
public class Images {
    /** More would not be read by anyone; the first tell where to look. */
    private static final int KEPT_PROBLEMS = 100;

    private final ImageRepository images;
    private final ImageCheckRepository checks;
    private final ObjectMapper json;
    private final Clock clock;

    Images(ImageRepository images, ImageCheckRepository checks, ObjectMapper json, Clock clock) {
        this.images = images;
        this.checks = checks;
        this.json = json;
        this.clock = clock;
    }

    /** @param sound what its last check said */
    public record Newest(Instant madeAt, boolean sound) {
    }

    /** What a check needs to know of an image. */
    public record Shelved(String name, String computer, String diskId, String disk, String serial, String destinationId, String destination, long storedBytes) {
    }

    /** The newest image of every disk that has one, by the disk's identity. */
    @Transactional(readOnly = true)
    public Map<String, Newest> newest() {
        return images.newest().stream().collect(Collectors.toMap(NewestImage::getDiskId, n -> new Newest(n.getMadeAt(), Boolean.TRUE.equals(n.getOk())), (a, b) -> a));
    }

    /** A disk's images made with a codec, for the next estimate of it; those found damaged count too, their sizes are no less true. */
    @Transactional(readOnly = true)
    public List<ImageHistory.Past> pastOf(String diskId, String codec) {
        return images.findByDiskIdAndCodecOrderByMadeAtDesc(diskId, codec).stream().filter(image -> image.usedBytes() > 0)
            .map(image -> new ImageHistory.Past(Math.max(0, Duration.between(image.madeAt(), clock.instant()).toHours() / 24.0), image.usedBytes(), image.storedBytes())).toList();
    }

    /** How many images lie on a destination, and what they take. */
    public record Lying(int count, long bytes) {
    }

    /** By destination, those that hold any. */
    @Transactional(readOnly = true)
    public Map<String, Lying> lying() {
        return images.findAll().stream().collect(Collectors.toMap(Image::destinationId, image -> new Lying(1, image.storedBytes()),
            (a, b) -> new Lying(a.count() + b.count(), a.bytes() + b.bytes())));
    }

    public boolean exists(String destinationId, String name) {
        return images.existsByDestinationIdAndName(destinationId, name);
    }

    public Shelved shelved(UUID id) {
        Image image = one(id);
        return new Shelved(image.name(), image.computer(), image.diskId(), image.disk(), image.serial(), image.destinationId(), image.destination(), image.storedBytes());
    }

    List<Image> all() {
        return images.findAllByOrderByMadeAtDesc();
    }

    Image one(UUID id) {
        return images.findById(id).orElseThrow(() -> Refused.notFound("image"));
    }

    List<ImageCheck> checksOf(UUID id) {
        return checks.findByImageIdOrderByCheckedAtDesc(id);
    }

    /** Records an image just made, with the check that was part of making it. */
    @Transactional
    public UUID record(Prospects.Prospect prospect, String destinationId, String destination, String name, SiteImage made, String who) {
        Image image = images.save(Image.of(prospect, destinationId, destination, name, made, clock.instant(), who));
        recordCheck(image.id(), made.check(), who);
        return image.id();
    }

    @Transactional
    public void recordCheck(UUID imageId, CheckOutcome outcome, String who) {
        List<Problem> kept = outcome.problems().subList(0, Math.min(KEPT_PROBLEMS, outcome.problems().size()));
        try {
            checks.save(new ImageCheck(imageId, clock.instant(), who, outcome.depth(), outcome.ok(), outcome.readBytes(), json.writeValueAsString(kept)));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    List<Problem> problemsOf(ImageCheck check) {
        try {
            return List.of(json.readValue(check.problems(), Problem[].class));
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
