package app.granary.demo;

import app.granary.server.home.GranarySettings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeParseException;
import java.time.temporal.TemporalAdjusters;
import java.util.Optional;
import java.util.Set;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * The made-up office opens on a Tuesday afternoon, whatever the clock says: its night can be planned then, and nothing that works at night
 * works yet. Its clock goes on from there, and never back behind what it showed before.
 */
@Component
class DemoClock {
    private static final LocalTime OPENS = LocalTime.of(14, 40);
    private static final LocalTime LATE = LocalTime.of(16, 30);
    private static final Set<DayOfWeek> CLOSED = Set.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);
    private static final String FILE = "demo-clock";

    private final GranarySettings settings;
    private final Clock clock;

    DemoClock(GranarySettings settings, Clock clock) {
        this.settings = settings;
        this.clock = clock;
    }

    /** What it showed last; empty at the first start. */
    static Optional<Instant> last(Path home) {
        try {
            return Optional.of(Instant.parse(Files.readString(home.resolve(FILE)).strip()));
        } catch (IOException | DateTimeParseException none) {
            return Optional.empty();
        }
    }

    /**
     * @param real what the clock says
     * @param last what it showed last
     */
    static Instant shows(Instant real, ZoneId zone, Optional<Instant> last) {
        ZonedDateTime now = real.atZone(zone);
        ZonedDateTime tuesday = now.with(TemporalAdjusters.previousOrSame(DayOfWeek.TUESDAY)).with(OPENS);
        Instant opens = (tuesday.isAfter(now) ? tuesday.minusWeeks(1) : tuesday).toInstant();
        if (last.isEmpty() || last.get().isBefore(opens)) {
            return opens;
        }
        ZonedDateTime then = last.get().plusSeconds(60).atZone(zone);
        if (!CLOSED.contains(then.getDayOfWeek()) && !then.toLocalTime().isBefore(OPENS) && then.toLocalTime().isBefore(LATE)) {
            return then.toInstant();
        }
        ZonedDateTime next = then.with(OPENS);
        while (CLOSED.contains(next.getDayOfWeek()) || next.isBefore(then)) {
            next = next.plusDays(1);
        }
        return next.toInstant();
    }

    /** More often than what {@link #shows} adds, so that no line of the journal is younger than its clock. */
    @Scheduled(fixedRate = 20_000)
    void keep() throws IOException {
        if (settings.history()) {
            Path next = settings.home().resolve(FILE + ".next");
            Files.writeString(next, clock.instant() + "\n");
            Files.move(next, settings.home().resolve(FILE), StandardCopyOption.ATOMIC_MOVE);
        }
    }
}
