package app.granary.server.journal;

import app.granary.core.journal.JournalLine;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** The journal, or the lines chosen of it, as files; oldest first, however long it is. */
@RestController
@RequestMapping("/api/v1/journal")
class JournalExports {
    private static final int AT_ONCE = 2000;

    private final JournalSearch search;
    private final OfficeZone office;
    private final ObjectMapper json;

    JournalExports(JournalSearch search, OfficeZone office, ObjectMapper json) {
        this.search = search;
        this.office = office;
        this.json = json;
    }

    private interface Written {
        String of(JournalEntry entry) throws IOException;
    }

    /** RFC 4180. */
    @GetMapping("/csv")
    ResponseEntity<StreamingResponseBody> csv(@RequestParam(defaultValue = "") String account,
        @RequestParam(defaultValue = "") String action, @RequestParam(defaultValue = "") String text,
        @RequestParam(required = false) LocalDate from, @RequestParam(required = false) LocalDate to) {
        return file("granary-journal.csv", new MediaType("text", "csv", StandardCharsets.UTF_8), filter(account, action, text, from, to),
            String.join(",", fields(null).keySet()) + "\r\n",
            entry -> fields(entry).values().stream().map(JournalExports::quoted).collect(Collectors.joining(",")) + "\r\n");
    }

    /** JSON Lines: one object a line. */
    @GetMapping("/jsonl")
    ResponseEntity<StreamingResponseBody> jsonl(@RequestParam(defaultValue = "") String account,
        @RequestParam(defaultValue = "") String action, @RequestParam(defaultValue = "") String text,
        @RequestParam(required = false) LocalDate from, @RequestParam(required = false) LocalDate to) {
        return file("granary-journal.jsonl", MediaType.parseMediaType("application/jsonl"), filter(account, action, text, from, to), "",
            entry -> json.writeValueAsString(fields(entry)) + "\n");
    }

    private JournalFilter filter(String account, String action, String text, LocalDate from, LocalDate to) {
        return JournalFilter.of(account, action, text, from, to, office.zone());
    }

    private ResponseEntity<StreamingResponseBody> file(String name, MediaType type, JournalFilter filter, String first, Written written) {
        return ResponseEntity.ok().header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=" + name).contentType(type).body(out -> {
            Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
            writer.write(first);
            List<JournalEntry> lines = search.after(filter, 0, AT_ONCE);
            while (!lines.isEmpty()) {
                for (JournalEntry entry : lines) {
                    writer.write(written.of(entry));
                }
                lines = search.after(filter, lines.get(lines.size() - 1).id(), AT_ONCE);
            }
            writer.flush();
        });
    }

    private static Map<String, Object> fields(JournalEntry entry) {
        JournalLine line = entry == null ? null : entry.line();
        Map<String, Object> out = new LinkedHashMap<>();
        Object[] values = line == null ? new Object[12]
            : Stream.of(line.number(), line.at().toString(), line.account(), line.action(), line.subject(), line.devices(), line.result(),
                line.sentence(),
                line.figures(), line.evidence(), line.corrects(), entry.seal()).toArray();
        String[] names = {"id", "at", "account", "action", "subject", "devices", "result", "sentence", "figures", "evidence", "corrects",
            "seal"};
        for (int i = 0; i < names.length; i++) {
            out.put(names[i], values[i]);
        }
        return out;
    }

    /** A leading =, +, - or @ would make a spreadsheet compute; an apostrophe keeps it text. */
    private static String quoted(Object field) {
        if (field instanceof Long number) {
            return number.toString();
        }
        String text = String.valueOf(field);
        String safe = text.matches("(?s)[=+\\-@\\t\\r].*") ? "'" + text : text;
        return '"' + safe.replace("\"", "\"\"") + '"';
    }
}
