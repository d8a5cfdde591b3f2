package app.granary.server.inside;

import app.granary.engine.files.FilePlace;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.UUID;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** Files out of an image, to the browser. */
@RestController
@RequestMapping("/api/v1/inside/{imageId}/content")
class FetchController {
    private final Fetches fetches;

    FetchController(Fetches fetches) {
        this.fetches = fetches;
    }

    /**
     * A file, or a folder as a ZIP. One that cannot be read at all is refused; one that cannot be read on breaks off, and the journal says
     * where.
     */
    @GetMapping
    ResponseEntity<StreamingResponseBody> content(@PathVariable UUID imageId, @RequestParam String place, Principal who)
        throws IOException {
        Fetches.Outgoing out = fetches.open(imageId, FilePlace.parse(place), who.getName());
        ResponseEntity.BodyBuilder answer = ResponseEntity.ok()
            .header(HttpHeaders.CONTENT_DISPOSITION, ContentDisposition.attachment().filename(out.name(), StandardCharsets.UTF_8).build()
                .toString())
            .header("Content-Security-Policy", "sandbox")
            .contentType(MediaType.APPLICATION_OCTET_STREAM);
        if (out.bytes() >= 0) {
            answer.contentLength(out.bytes());
        }
        return answer.body(out.body()::to);
    }
}
