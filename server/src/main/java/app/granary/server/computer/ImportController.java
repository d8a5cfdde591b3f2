package app.granary.server.computer;

import app.granary.core.inventory.Change;
import app.granary.core.inventory.InventoryReview;
import app.granary.engine.inventory.InventoryText;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Reports of computers: shown as changes first, taken over when a person accepts them. The report itself is the body, as it was printed.
 */
@RestController
@RequestMapping("/api/v1/imports")
class ImportController {
    /** Bytes of a report; a text of the longest kind taken may need up to four a character. */
    private static final int MOST_BYTES = 4 * InventoryText.MOST_CHARACTERS;
    private static final Map<String, String> DOWNLOADS = Map.of("granary-inventory.sh", "text/x-shellscript", "granary-inventory.ps1",
        "text/plain",
        "inventory.schema.json", "application/schema+json");

    private final InventoryReports reports;
    private final Journal journal;

    ImportController(InventoryReports reports, Journal journal) {
        this.reports = reports;
        this.journal = journal;
    }

    /**
     * @param basis      what the review was made against; accepting sends it back
     * @param acceptable whether it can be accepted
     * @param objections why not
     * @param notes      what was passed over
     */
    record Review(String basis, String format, boolean acceptable, int computers, int disks, List<ChangeLine> changes,
        List<ObjectionLine> objections, List<String> notes) {
    }

    /**
     * @param grave whether to look twice
     * @param line  of the report, from 1; null where there is none
     */
    record ChangeLine(String kind, boolean grave, String computer, String disk, String sentence, @Schema(types = {
        "integer", "null"}) Integer line){
    }

    record ObjectionLine(String sentence, @Schema(types = {
        "integer", "null"}) Integer line){
    }

    private record Read(InventoryText text, InventoryReview review) {
    }

    /**
     * What accepting a report would change; nothing is changed yet.
     *
     * @param computer the computer it is of, for formats that do not say
     * @param diskId   the disk it is of, for formats that do not say
     */
    @PostMapping(path = "/review", consumes = MediaType.TEXT_PLAIN_VALUE)
    Review review(HttpServletRequest request, @RequestParam(defaultValue = "") String computer,
        @RequestParam(defaultValue = "") String diskId) throws IOException {
        return wire(read(request, computer, diskId));
    }

    /** Takes a reviewed report over. */
    @PostMapping(path = "/accept", consumes = MediaType.TEXT_PLAIN_VALUE)
    Review accept(HttpServletRequest request, @RequestParam(defaultValue = "") String computer,
        @RequestParam(defaultValue = "") String diskId, @RequestParam String basis,
        Principal who) throws IOException {
        Read read = read(request, computer, diskId);
        if (!basis.equals(basis())) {
            throw new Refused(HttpStatus.CONFLICT, "changed-meanwhile", "",
                "The inventory changed since you looked at this report. Look at its changes again, then accept it.");
        }
        if (!read.review.acceptable()) {
            throw new Refused(HttpStatus.CONFLICT, "bad-choice", "", read.review.objections().get(0).sentence());
        }
        reports.accept(read.text.computers(), read.review, read.text.format());
        Map<String, List<Change>> byComputer = read.review.changes().stream().collect(Collectors.groupingBy(Change::computer));
        read.text.computers()
            .forEach(each -> journal.add(who.getName(), "import", each.name(), Journal.Result.DONE,
                "A report (" + read.text.format() + ") of " + each.name()
                    + " was accepted. "
                    + byComputer.getOrDefault(each.name(), List.of()).stream().map(Change::sentence).collect(Collectors.joining(" "))));
        return wire(read);
    }

    private Read read(HttpServletRequest request, String computer, String diskId) throws IOException {
        byte[] body = body(request);
        if (body.length > MOST_BYTES) {
            throw new Refused(HttpStatus.PAYLOAD_TOO_LARGE, "too-large", "", "The report is longer than " + (MOST_BYTES >> 20)
                + " MiB, far more than any office's computers. Nothing was changed; check that it is an inventory.");
        }
        int from = body.length >= 3 && body[0] == (byte) 0xEF && body[1] == (byte) 0xBB && body[2] == (byte) 0xBF ? 3 : 0; // a byte order
                                                                                                                           // mark
        InventoryText text = InventoryText.read(new String(body, from, body.length - from, StandardCharsets.UTF_8), computer,
            reports.knownDisk(diskId));
        return new Read(text, reports.review(text.computers()));
    }

    /** Into one array where its length is told: pieces that are joined take twice the memory. */
    private static byte[] body(HttpServletRequest request) throws IOException {
        int length = request.getContentLength();
        if (length < 0 || length > MOST_BYTES) {
            return request.getInputStream().readNBytes(MOST_BYTES + 1);
        }
        byte[] body = new byte[length];
        int read = request.getInputStream().readNBytes(body, 0, length);
        return read == length ? body : Arrays.copyOf(body, read);
    }

    private String basis() {
        return Long.toHexString(reports.revision());
    }

    private Review wire(Read read) {
        return new Review(basis(), read.text.format(), read.review.acceptable(), read.text.computers().size(), read.review.matches().size(),
            read.review.changes().stream()
                .map(c -> new ChangeLine(c.kind().word(), c.kind().grave(), c.computer(), c.disk(), c.sentence(),
                    c.line() > 0 ? c.line() : null))
                .toList(),
            read.review.objections().stream().map(o -> new ObjectionLine(o.sentence(), o.line() > 0 ? o.line() : null)).toList(),
            read.text.notes());
    }

    /** Scripts that print a report, and the schema of what they print. */
    @GetMapping("/downloads/{name}")
    ResponseEntity<Resource> download(@PathVariable String name) {
        String type = DOWNLOADS.get(name);
        if (type == null) {
            throw Refused.notFound("file");
        }
        return ResponseEntity.ok().contentType(MediaType.parseMediaType(type))
            .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + name + "\"")
            .body(new ClassPathResource(name, InventoryText.class));
    }
}
