package app.granary.server.office;

import app.granary.core.plan.OfficeCalendar;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;

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
    private String workingDays;
    private String closedDays;
    private boolean encryptLeaving;
    private int bootMinutes;
    private int leadMinutes;
    @Version
    private long version;

    protected OfficeHours() {
    }

    /** Usual hours, until a person says otherwise. */
    static OfficeHours usual(ZoneId zone) {
        OfficeHours hours = new OfficeHours();
        hours.id = ONLY;
        hours.describe(new OfficeCalendar(zone, LocalTime.of(8, 0), LocalTime.of(18, 0), new TreeSet<>(Arrays.asList(DayOfWeek.values()).subList(0, 5)), new TreeSet<>()), Map.of(), false,
            USUAL_BOOT_MINUTES, USUAL_LEAD_MINUTES);
        return hours;
    }

    /** @param notes what is on the days it is closed, by day; a day may have an empty note */
    void describe(OfficeCalendar calendar, Map<LocalDate, String> notes, boolean encrypt, int boot, int lead) {
        zone = calendar.zone().getId();
        opens = calendar.opens();
        closes = calendar.closes();
        workingDays = calendar.workingDays().stream().sorted().map(DayOfWeek::name).collect(Collectors.joining(","));
        closedDays = new TreeMap<>(notes).entrySet().stream().map(each -> each.getKey() + " " + each.getValue()).collect(Collectors.joining("\n"));
        encryptLeaving = encrypt;
        bootMinutes = boot;
        leadMinutes = lead;
    }

    OfficeCalendar calendar() {
        SortedSet<DayOfWeek> days = Arrays.stream(workingDays.split(",")).map(DayOfWeek::valueOf).collect(Collectors.toCollection(TreeSet::new));
        return new OfficeCalendar(ZoneId.of(zone), opens, closes, days, closedDays().keySet());
    }

    /** In order. */
    Map<LocalDate, String> closedDays() {
        Map<LocalDate, String> out = new LinkedHashMap<>();
        for (String line : closedDays.isEmpty() ? new String[0] : closedDays.split("\n")) {
            out.put(LocalDate.parse(line.substring(0, 10)), line.substring(11));
        }
        return out;
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
