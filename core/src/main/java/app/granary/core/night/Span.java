package app.granary.core.night;

import java.time.Instant;

/** A stretch of time, its end exclusive. */
public record Span(Instant from, Instant to) {
    public Span {
        if (!from.isBefore(to)) {
            throw new IllegalArgumentException("a span must end after it begins: " + from + " to " + to);
        }
    }
}
