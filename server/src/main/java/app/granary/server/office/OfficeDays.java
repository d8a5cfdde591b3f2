package app.granary.server.office;

import app.granary.core.plan.OfficeCalendar;
import app.granary.server.journal.OfficeZone;
import app.granary.server.problem.IfMatch;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Map;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The office's calendar and rules, for all who go by them. */
@Service
public class OfficeDays implements OfficeZone {
    private final OfficeHoursRepository repository;
    private final Clock clock;

    OfficeDays(OfficeHoursRepository repository, Clock clock) {
        this.repository = repository;
        this.clock = clock;
    }

    /**
     * @param encryptLeaving whether images on drives that leave the building must be encrypted
     * @param perBoot        how long booting one computer takes a person
     * @param lead           so long before its window opens a computer may be handed over and booted
     */
    public record Days(OfficeCalendar calendar, boolean encryptLeaving, Duration perBoot, Duration lead) {
    }

    @Transactional(readOnly = true)
    public Days days() {
        OfficeHours hours = hours();
        return new Days(hours.calendar(), hours.encryptLeaving(), Duration.ofMinutes(hours.bootMinutes()),
            Duration.ofMinutes(hours.leadMinutes()));
    }

    /** Whether a person saved the office's hours; otherwise they are the usual ones. */
    boolean isSaved() {
        return repository.existsById(OfficeHours.ONLY);
    }

    OfficeHours hours() {
        return repository.findById(OfficeHours.ONLY).orElseGet(() -> OfficeHours.usual(clock.getZone()));
    }

    @Transactional
    public OfficeHours describe(long version, OfficeCalendar calendar, Map<LocalDate, String> notes, boolean encryptLeaving,
        int bootMinutes, int leadMinutes) {
        OfficeHours hours = hours();
        if (hours.version() != version) {
            throw IfMatch.changedMeanwhile("the office's hours");
        }
        hours.describe(calendar, notes, encryptLeaving, bootMinutes, leadMinutes);
        return repository.saveAndFlush(hours);
    }

    @Override
    public ZoneId zone() {
        return days().calendar().zone();
    }
}
