package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.server.image.Images;
import app.granary.server.label.QrCode;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What is printed for a drive: a label with its identity, and the list of what lies on it. */
@RestController
@RequestMapping("/api/v1/labels")
class LabelController {
    private final Destinations destinations;
    private final Images images;
    private final Clock clock;

    LabelController(Destinations destinations, Images images, Clock clock) {
        this.destinations = destinations;
        this.images = images;
        this.clock = clock;
    }

    record Content(String computer, String disk, String name, Instant madeAt, long storedBytes, int proof, boolean encrypted) {
    }

    /**
     * @param code     what its QR code says
     * @param contents newest first
     */
    record Label(String id, String name, String code, String rotation, String place, long capacityBytes, List<Content> contents, Instant printedAt) {
    }

    @GetMapping("/{id}")
    Label label(@PathVariable String id) throws IOException {
        Destination found = destinations.now().stream().filter(d -> d.id().equals(id)).findFirst().orElseThrow(() -> Refused.notFound("destination"));
        KnownDestination known = destinations.one(id);
        List<Content> contents = images.standings().stream().filter(image -> image.destinationId().equals(id) && !image.paper()).map(image -> new Content(image.computer(), image.disk(), image.name(), image.madeAt(),
            image.storedBytes(), image.standing().level().map(level -> level.ordinal() + 1).orElse(0), image.encrypted())).toList();
        return new Label(id, found.name(), code(found), known.rotation(), known.placeText(), found.capacityBytes(), contents, clock.instant());
    }

    private static String code(Destination destination) {
        return "granary drive " + destination.name() + " " + destination.id();
    }

    /** Its QR code (ISO/IEC 18004) as a drawing, one unit a module. */
    @GetMapping(value = "/{id}/code.svg", produces = "image/svg+xml")
    ResponseEntity<String> drawing(@PathVariable String id) throws IOException {
        Destination found = destinations.now().stream().filter(d -> d.id().equals(id)).findFirst().orElseThrow(() -> Refused.notFound("destination"));
        return ResponseEntity.ok().contentType(MediaType.parseMediaType("image/svg+xml")).body(QrCode.svg(code(found)));
    }
}
