package app.granary.server.destination;

import app.granary.core.destination.Destination;
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
    private final Contents contents;
    private final Clock clock;

    LabelController(Destinations destinations, Contents contents, Clock clock) {
        this.destinations = destinations;
        this.contents = contents;
        this.clock = clock;
    }

    /**
     * @param code     what its QR code says
     * @param contents newest first
     */
    record Label(String id, String name, String code, String rotation, String place, long capacityBytes, List<Contents.Content> contents,
        Instant printedAt) {
    }

    @GetMapping("/{id}")
    Label label(@PathVariable String id) throws IOException {
        Destination found = destinations.now().stream().filter(d -> d.id().equals(id)).findFirst()
            .orElseThrow(() -> Refused.notFound("destination"));
        KnownDestination known = destinations.one(id);
        return new Label(id, found.name(), code(found), known.rotation(), known.placeText(), found.capacityBytes(), contents.on(id),
            clock.instant());
    }

    private static String code(Destination destination) {
        return "granary drive " + destination.name() + " " + destination.id();
    }

    /** Its QR code (ISO/IEC 18004) as a drawing, one unit a module. */
    @GetMapping(value = "/{id}/code.svg", produces = "image/svg+xml")
    ResponseEntity<String> drawing(@PathVariable String id) throws IOException {
        Destination found = destinations.now().stream().filter(d -> d.id().equals(id)).findFirst()
            .orElseThrow(() -> Refused.notFound("destination"));
        return ResponseEntity.ok().contentType(MediaType.parseMediaType("image/svg+xml")).body(QrCode.svg(code(found)));
    }
}
