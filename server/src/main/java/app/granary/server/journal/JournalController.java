package app.granary.server.journal;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import org.springframework.data.domain.PageRequest;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.Authentication;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The journal, newest first. */
@RestController
@RequestMapping("/api/v1/journal")
class JournalController {
    private static final int PAGE = 100;

    private final JournalRepository repository;
    private final Journal journal;

    JournalController(JournalRepository repository, Journal journal) {
        this.repository = repository;
        this.journal = journal;
    }

    record JournalLine(long id, Instant at, String account, String action, String subject, String result, String sentence) {
        static JournalLine from(JournalEntry entry) {
            return new JournalLine(entry.id(), entry.at(), entry.account(), entry.action(), entry.subject(), entry.result().word(), entry.sentence());
        }
    }

    /** @param total how many lines the journal has in all */
    record JournalPage(List<JournalLine> lines, long total) {
    }

    record Note(@NotBlank(message = "needs some text") @Size(max = 1900, message = "is longer than 1900 characters") String text) {
    }

    /** @param before id of the oldest line already shown */
    @GetMapping
    JournalPage lines(@RequestParam(defaultValue = "9223372036854775807") long before) {
        return new JournalPage(repository.findByIdLessThanOrderByIdDesc(before, PageRequest.of(0, PAGE)).stream().map(JournalLine::from).toList(), repository.count());
    }

    @PostMapping("/notes")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void note(@Valid @RequestBody Note note, Authentication who) {
        journal.add(who.getName(), "note", "", Journal.Result.NOTE, note.text().strip());
    }

    /** The whole journal as CSV (RFC 4180), oldest first. */
    @GetMapping("/csv")
    ResponseEntity<String> csv() {
        StringBuilder out = new StringBuilder("id,at,account,action,subject,result,sentence\r\n");
        for (JournalEntry entry : repository.findAllByOrderById()) {
            out.append(entry.id()).append(',').append(entry.at()).append(',').append(quoted(entry.account())).append(',').append(quoted(entry.action())).append(',')
                .append(quoted(entry.subject())).append(',').append(entry.result().word()).append(',').append(quoted(entry.sentence())).append("\r\n");
        }
        return ResponseEntity.ok().header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=granary-journal.csv")
            .contentType(new MediaType("text", "csv", java.nio.charset.StandardCharsets.UTF_8)).body(out.toString());
    }

    /** A leading =, +, - or @ would make a spreadsheet compute; an apostrophe keeps it text. */
    private static String quoted(String field) {
        String safe = field.matches("(?s)[=+\\-@\\t\\r].*") ? "'" + field : field;
        return '"' + safe.replace("\"", "\"\"") + '"';
    }
}
