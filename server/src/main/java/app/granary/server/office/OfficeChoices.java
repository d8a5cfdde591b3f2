package app.granary.server.office;

import app.granary.core.plan.FolderPattern;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.retention.Keeping;
import app.granary.engine.host.Host;
import app.granary.server.problem.IfMatch;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.time.Clock;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What the office chose for all its computers and plans. */
@Service
public class OfficeChoices {
    private final OfficeRowRepository repository;
    private final OfficeDays days;
    private final Host host;
    private final ObjectMapper json;
    private final Clock clock;

    OfficeChoices(OfficeRowRepository repository, OfficeDays days, Host host, ObjectMapper json, Clock clock) {
        this.repository = repository;
        this.days = days;
        this.host = host;
        this.json = json;
        this.clock = clock;
    }

    /**
     * @param name      the office's name
     * @param units     "decimal" or "binary", as sizes read where a person chose nothing
     * @param keeping   for plans that say nothing of their own
     * @param trashDays released images lie in the trash of their drive for so long
     * @param copiesTo  destination of the copies of Granary's own database; an empty string for none
     * @param mailTo    who is told of what concerns the whole office; an empty string for nobody
     * @param folder    in which images lie on their drives, where a plan says nothing of its own; none for Granary's own folder
     * @param version   for If-Match
     */
    public record Choices(String name, String units, Keeping keeping, int trashDays, String copiesTo, String mailTo, FolderPattern folder,
        long version) {
    }

    private OfficeRow row() {
        return repository.findById(OfficeRow.ONLY).orElseGet(OfficeRow::new);
    }

    @Transactional(readOnly = true)
    public Choices choices() {
        OfficeRow row = row();
        return new Choices(row.name().isEmpty() ? host.name() : row.name(), row.units(), keeping(row), row.trashDays(), row.copiesTo(),
            row.mailTo(), new FolderPattern(row.folder()), seen(row));
    }

    /** A row that was never saved is another one than the first that was. */
    private long seen(OfficeRow row) {
        return repository.existsById(OfficeRow.ONLY) ? row.version() + 1 : 0;
    }

    private Keeping keeping(OfficeRow row) {
        try {
            return row.keeping().isEmpty() ? Keeping.USUAL : json.readValue(row.keeping(), Keeping.class);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    public Keeping keeping() {
        return keeping(row());
    }

    /** Whether a person left the page that leads a new office. */
    public boolean firstDayLeft() {
        return row().firstDayLeft();
    }

    @Transactional
    public void leaveFirstDay(boolean left) {
        OfficeRow row = row();
        row.leaveFirstDay(left);
        repository.saveAndFlush(row);
    }

    /** Whether a person saved anything of the office. */
    public boolean isSaved() {
        return !row().name().isEmpty() || days.isSaved();
    }

    public FolderPattern folder() {
        return new FolderPattern(row().folder());
    }

    public int trashDays() {
        return row().trashDays();
    }

    public Optional<String> copiesTo() {
        return Optional.of(row().copiesTo()).filter(id -> !id.isEmpty());
    }

    /** Whether people are at work just now. */
    public boolean openNow() {
        OfficeCalendar calendar = days.days().calendar();
        ZonedDateTime now = clock.instant().atZone(calendar.zone());
        LocalTime time = now.toLocalTime();
        return calendar.open(now.toLocalDate()) && !time.isBefore(calendar.opens()) && time.isBefore(calendar.closes());
    }

    @Transactional
    public Choices choose(Choices wanted) {
        OfficeRow row = row();
        if (seen(row) != wanted.version) {
            throw IfMatch.changedMeanwhile("the office's settings");
        }
        try {
            row.choose(wanted.name.strip(), wanted.units, json.writeValueAsString(wanted.keeping), wanted.trashDays, wanted.copiesTo,
                wanted.mailTo.strip(), wanted.folder.text());
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
        repository.saveAndFlush(row);
        return choices();
    }
}
