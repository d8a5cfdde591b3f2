package app.granary.server.journal;

import app.granary.server.problem.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.datasource.DataSourceUtils;
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
    private static final int MOST_IN_REPORT = 5000;
    private static final int DAYS = 42;

    private final JournalRepository repository;
    private final JournalSearch search;
    private final Journal journal;
    private final OfficeZone office;
    private final JournalEnds ends;
    private final DataSource database;
    private final Clock clock;

    JournalController(JournalRepository repository, JournalSearch search, Journal journal, OfficeZone office, JournalEnds ends,
        DataSource database, Clock clock) {
        this.clock = clock;
        this.ends = ends;
        this.repository = repository;
        this.search = search;
        this.journal = journal;
        this.office = office;
        this.database = database;
    }

    /**
     * @param devices  identities of what took part; an empty string for none
     * @param figures  {@code "storedBytes=12"} and so on; an empty string for none
     * @param evidence the page that shows it; an empty string for none
     * @param corrects the line it corrects; 0 for none
     */
    record JournalLineShown(long id, Instant at, String account, String action, String subject, String devices, String result,
        String sentence, String figures, String evidence, long corrects, String seal) {
        static JournalLineShown from(JournalEntry entry) {
            var line = entry.line();
            return new JournalLineShown(entry.id(), line.at(), line.account(), line.action(), line.subject(), line.devices(), line.result(),
                line.sentence(), line.figures(), line.evidence(),
                line.corrects(), entry.seal());
        }
    }

    /** @param total how many lines the journal has in all */
    record JournalPage(List<JournalLineShown> lines, long total) {
    }

    /** What the lines can be chosen by. */
    record JournalChoices(List<String> accounts, List<String> actions) {
    }

    /** @param lines oldest first, at most 5000 */
    record JournalReport(LocalDate from, LocalDate to, List<JournalLineShown> lines, boolean more, String sentence) {
    }

    /** @param corrects number of the line it corrects; 0 for none */
    record Note(@NotBlank(message = "needs some text") @Size(max = 1900, message = "is longer than 1900 characters") String text,
        boolean signOff,
        @Min(value = 0, message = "is the number of a line") long corrects) {
    }

    private JournalFilter filter(String account, String action, String text, LocalDate from, LocalDate to) {
        return JournalFilter.of(account, action, text, from, to, office.zone());
    }

    /** @param before id of the oldest line already shown */
    @GetMapping
    JournalPage lines(@RequestParam(defaultValue = "9223372036854775807") long before, @RequestParam(defaultValue = "") String account,
        @RequestParam(defaultValue = "") String action,
        @RequestParam(defaultValue = "") String text, @RequestParam(required = false) LocalDate from,
        @RequestParam(required = false) LocalDate to) {
        return new JournalPage(
            search.before(filter(account, action, text, from, to), before, PAGE).stream().map(JournalLineShown::from).toList(),
            repository.count());
    }

    /**
     * Of one day by the office's clock.
     *
     * @param failed how many of the lines tell of something that failed
     */
    record JournalDay(LocalDate day, int lines, int failed) {
    }

    /** The last six weeks day by day, oldest first, days without a line among them. */
    @GetMapping("/days")
    List<JournalDay> days(@RequestParam(defaultValue = "") String account, @RequestParam(defaultValue = "") String action,
        @RequestParam(defaultValue = "") String text) {
        ZoneId zone = office.zone();
        LocalDate today = LocalDate.ofInstant(clock.instant(), zone);
        LocalDate first = today.minusDays(DAYS - 1);
        Map<LocalDate, List<JournalRepository.Ended>> byDay = search.ended(filter(account, action, text, first, today)).stream()
            .collect(Collectors.groupingBy(each -> LocalDate.ofInstant(each.at(), zone)));
        return first.datesUntil(today.plusDays(1)).map(day -> {
            List<JournalRepository.Ended> lines = byDay.getOrDefault(day, List.of());
            return new JournalDay(day, lines.size(), (int) lines.stream().filter(each -> each.result() == Journal.Result.FAILED).count());
        }).toList();
    }

    @GetMapping("/choices")
    JournalChoices choices() {
        return new JournalChoices(repository.accounts(), repository.actions());
    }

    @PostMapping("/notes")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void note(@Valid @RequestBody Note note, Authentication who) {
        if (note.corrects > 0 && repository.findById(note.corrects).isEmpty()) {
            throw new Refused(HttpStatus.NOT_FOUND, "not-found", "corrects",
                "There is no line " + note.corrects + " to correct. Look for its number in the journal.");
        }
        journal.add(who.getName(), note.corrects > 0 ? "correction" : note.signOff ? "sign-off" : "note",
            note.corrects > 0 ? "line " + note.corrects : "", Journal.Result.NOTE, note.text().strip(),
            new Journal.Facts(List.of(), Map.of(), "", note.corrects));
    }

    /** Holds every line against its seal. */
    @GetMapping("/check")
    JournalCheckDetail check() throws SQLException, IOException {
        var connection = DataSourceUtils.getConnection(database);
        try {
            JournalCheck.Outcome outcome = JournalCheck.run(connection).with(ends.missing(connection));
            return new JournalCheckDetail(outcome.whole(), outcome.lines(), outcome.seal(), outcome.sentence());
        } finally {
            DataSourceUtils.releaseConnection(connection, database);
        }
    }

    record JournalCheckDetail(boolean whole, long lines, String seal, String sentence) {
    }

    /** A period, for the office's file. */
    @GetMapping("/report")
    JournalReport report(@RequestParam LocalDate from, @RequestParam LocalDate to) throws SQLException, IOException {
        if (to.isBefore(from)) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "to",
                "The report would end before it begins. Choose a last day on or after the first.");
        }
        List<JournalLineShown> lines = search.after(filter("", "", "", from, to), 0, MOST_IN_REPORT + 1).stream()
            .map(JournalLineShown::from).toList();
        boolean more = lines.size() > MOST_IN_REPORT;
        return new JournalReport(from, to, more ? lines.subList(0, MOST_IN_REPORT) : lines, more, check().sentence());
    }
}
