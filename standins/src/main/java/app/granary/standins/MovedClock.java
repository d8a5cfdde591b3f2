package app.granary.standins;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;

/** The real clock, or one set to another moment from which it goes on. */
public final class MovedClock extends Clock {
    private final Clock real;
    private final Duration start;
    private volatile Duration offset;

    /** @param shows what it shows at first; empty for the real moment */
    public MovedClock(Clock real, Optional<Instant> shows) {
        this.real = real;
        this.start = shows.map(moment -> Duration.between(real.instant(), moment)).orElse(Duration.ZERO);
        this.offset = start;
    }

    void moveTo(Instant moment) {
        offset = Duration.between(real.instant(), moment);
    }

    void moveBack() {
        offset = start;
    }

    @Override
    public ZoneId getZone() {
        return real.getZone();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return new MovedClock(real.withZone(zone), Optional.of(instant()));
    }

    @Override
    public Instant instant() {
        return real.instant().plus(offset);
    }
}
