package app.granary.server.office;

import app.granary.core.plan.OfficeCalendar;
import app.granary.server.journal.Journal;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** When the office is open. */
@RestController
@RequestMapping("/api/v1/office/days")
class OfficeDaysController {
    private final OfficeDays days;
    private final Journal journal;

    OfficeDaysController(OfficeDays days, Journal journal) {
        this.days = days;
        this.journal = journal;
    }

    /**
     * @param zone           a time zone's name, as in {@code "Europe/Berlin"}
     * @param opens          {@code "08:00"}
     * @param closes         {@code "18:00"}
     * @param workingDays    {@code "monday"} and so on
     * @param closedDays     days on which it is closed all the same, with what is on
     * @param encryptLeaving whether images on drives that leave the building must be encrypted
     * @param bootMinutes    how long booting one computer takes a person
     * @param leadMinutes    so long before its window opens a computer may be handed over and booted
     */
    record OfficeForm(@NotNull String zone, @NotNull String opens, @NotNull String closes, @NotNull List<String> workingDays,
        @NotNull @Size(max = 400, message = "may have at most 400 days") List<@Valid ClosedDay> closedDays, boolean encryptLeaving,
        @Min(value = 1, message = "must be 1 to 120 minutes") @Max(value = 120, message = "must be 1 to 120 minutes") int bootMinutes,
        @Min(value = 0, message = "must be 0 to 600 minutes") @Max(value = 600, message = "must be 0 to 600 minutes") int leadMinutes) {
    }

    record ClosedDay(@NotNull LocalDate day, @NotNull @Size(max = 40, message = "may have at most 40 characters") String note) {
    }

    /** @param zones names of all zones there are, for the choice */
    record OfficeDaysDetail(OfficeForm form, long version, Collection<String> zones) {
    }

    @GetMapping
    OfficeDaysDetail detail() {
        return of(days.hours());
    }

    private static OfficeDaysDetail of(OfficeHours hours) {
        OfficeCalendar calendar = hours.calendar();
        return new OfficeDaysDetail(new OfficeForm(calendar.zone().getId(), calendar.opens().toString(), calendar.closes().toString(),
            calendar.workingDays().stream().sorted().map(day -> day.name().toLowerCase(Locale.ROOT)).toList(),
            hours.closedDays().entrySet().stream().map(each -> new ClosedDay(each.getKey(), each.getValue())).toList(),
            hours.encryptLeaving(), hours.bootMinutes(), hours.leadMinutes()), hours.version(),
            ZoneId.getAvailableZoneIds().stream()
                .filter(name -> name.contains("/") && !name.startsWith("Etc/") && !name.startsWith("SystemV/") || name.equals("UTC")
                    || name.equals(calendar.zone().getId()))
                .sorted().toList());
    }

    @PutMapping
    OfficeDaysDetail describe(@RequestHeader("If-Match") String version, @Valid @RequestBody OfficeForm form, Principal who) {
        Map<LocalDate, String> notes = form.closedDays.stream()
            .collect(Collectors.toMap(ClosedDay::day, each -> each.note().strip().replace("\n", " "), (a, b) -> a, TreeMap::new));
        OfficeHours saved = days.describe(IfMatch.version(version), calendar(form, notes.keySet()), notes, form.encryptLeaving,
            form.bootMinutes, form.leadMinutes);
        journal.add(who.getName(), "change office hours", "the office", Journal.Result.DONE,
            "Open " + form.opens + " to " + form.closes + " (" + form.zone + "), "
                + String.join(", ", form.workingDays) + "; closed on " + notes.size()
                + " more days; images on drives that leave the building " + (form.encryptLeaving ? "must" : "need not") + " be encrypted.");
        return of(saved);
    }

    private static OfficeCalendar calendar(OfficeForm form, Set<LocalDate> closed) {
        LocalTime opens = time("opens", form.opens);
        LocalTime closes = time("closes", form.closes);
        if (!opens.isBefore(closes)) {
            throw bad("closes", "The office must close after it opens. Correct the hours.");
        }
        Set<DayOfWeek> working = EnumSet.noneOf(DayOfWeek.class);
        for (String word : form.workingDays) {
            working.add(Arrays.stream(DayOfWeek.values()).filter(day -> day.name().equalsIgnoreCase(word)).findFirst()
                .orElseThrow(() -> bad("workingDays", "\"" + word + "\" is no day of the week. Choose from monday to sunday.")));
        }
        if (working.isEmpty()) {
            throw bad("workingDays", "Choose at least one day on which the office is open.");
        }
        try {
            return new OfficeCalendar(ZoneId.of(form.zone), opens, closes, working, closed);
        } catch (DateTimeException unknown) {
            throw bad("zone", "\"" + form.zone + "\" is no time zone. Write it like Europe/Berlin.");
        }
    }

    private static LocalTime time(String field, String text) {
        try {
            return LocalTime.parse(text);
        } catch (DateTimeException wrong) {
            throw bad(field, "\"" + text + "\" is no time of day. Write it like 18:30.");
        }
    }

    private static Refused bad(String field, String sentence) {
        return new Refused(HttpStatus.BAD_REQUEST, "bad-choice", field, sentence);
    }
}
