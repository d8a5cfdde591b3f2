package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
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
        return ResponseEntity.ok().contentType(MediaType.parseMediaType("image/svg+xml")).body(svg(code(found)));
    }

    static String svg(String text) {
        try {
            BitMatrix code = new QRCodeWriter().encode(text, BarcodeFormat.QR_CODE, 0, 0, Map.of(EncodeHintType.MARGIN, 4, EncodeHintType.CHARACTER_SET, "UTF-8"));
            StringBuilder out = new StringBuilder("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 " + code.getWidth() + " " + code.getHeight() + "\" shape-rendering=\"crispEdges\"><path fill=\"#fff\" d=\"M0 0h"
                + code.getWidth() + "v" + code.getHeight() + "H0z\"/><path d=\"");
            for (int y = 0; y < code.getHeight(); y++) {
                for (int x = 0; x < code.getWidth(); x++) {
                    if (code.get(x, y)) {
                        out.append("M").append(x).append(' ').append(y).append("h1v1h-1z");
                    }
                }
            }
            return out.append("\"/></svg>").toString();
        } catch (WriterException tooLong) {
            throw new IllegalStateException(tooLong);
        }
    }
}
