package app.granary.server.office;

import app.granary.core.plan.OfficeCalendar;
import app.granary.server.column.JsonColumn;
import com.fasterxml.jackson.core.type.TypeReference;
import jakarta.persistence.Convert;
import jakarta.persistence.Converter;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;

/** When the office is open, and its rules for the night. There is one row. */
@Entity
class OfficeHours {
    static final int ONLY = 1;
    /** Booting a computer from rescue media and seeing it come up takes a person about this long (common practice, no source). */
    private static final int USUAL_BOOT_MINUTES = 10;
    /** People hand over their computers at the end of the day, before the window for imaging opens. */
    private static final int USUAL_LEAD_MINUTES = 60;

    @Id
    private int id;
    private String zone;
    private LocalTime opens;
    private LocalTime closes;
    @Convert(converter = WorkingDays.class)
    private List<DayOfWeek> workingDays;
    @Convert(converter = ClosedDays.class)
    private SortedMap<LocalDate, String> closedDays;
    private boolean encryptLeaving;
    private int bootMinutes;
    private int leadMinutes;
    @Version
    private long version;

    protected OfficeHours() {
    }

    /** Days of the week, in order. */
    @Converter
    static class WorkingDays extends JsonColumn<List<DayOfWeek>> {
        WorkingDays() {
            super(new TypeReference<>() {});
        }
    }

    /** What is on each of the days it is closed. */
    @Converter
    static class ClosedDays extends JsonColumn<SortedMap<LocalDate, String>> {
        ClosedDays() {
            super(new TypeReference<>() {});
        }
    }

    /** Usual hours, until a person says otherwise. */
    static OfficeHours usual(ZoneId zone) {
        OfficeHours hours = new OfficeHours();
        hours.id = ONLY;
        hours.describe(
            new OfficeCalendar(zone, LocalTime.of(8, 0), LocalTime.of(18, 0),
                new TreeSet<>(Arrays.asList(DayOfWeek.values()).subList(0, 5)), new TreeSet<>()),
            Map.of(), false,
            USUAL_BOOT_MINUTES, USUAL_LEAD_MINUTES);
        return hours;
    }

    /** @param notes what is on the days it is closed, by day; a day may have an empty note */
    void describe(OfficeCalendar calendar, Map<LocalDate, String> notes, boolean encrypt, int boot, int lead) {
        zone = calendar.zone().getId();
        opens = calendar.opens();
        closes = calendar.closes();
        workingDays = calendar.workingDays().stream().sorted().toList();
        closedDays = new TreeMap<>(notes);
        encryptLeaving = encrypt;
        bootMinutes = boot;
        leadMinutes = lead;
    }

    OfficeCalendar calendar() {
        return new OfficeCalendar(ZoneId.of(zone), opens, closes, new TreeSet<>(workingDays), new TreeSet<>(closedDays.keySet()));
    }

    /** In order. */
    Map<LocalDate, String> closedDays() {
        return Collections.unmodifiableSortedMap(closedDays);
    }

    boolean encryptLeaving() {
        return encryptLeaving;
    }

    int bootMinutes() {
        return bootMinutes;
    }

    int leadMinutes() {
        return leadMinutes;
    }

    long version() {
        return version;
    }
}
