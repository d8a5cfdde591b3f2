package app.granary.core.preflight;

import app.granary.core.measure.Durations;
import app.granary.core.measure.Moments;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;

/**
 * Reasons not to begin, each as a sentence with its figures and what to do. That a capture is not begun on a battery that may not last, and
 * that images are not dated by a clock that runs behind, is common practice, no source.
 */
public final class Preflight {
    /** A battery's own reckoning is rough; this is kept besides. */
    private static final long SPARE_SECONDS = 600;
    /** Without a reckoning, this charge is asked for. */
    private static final int LEAST_PERCENT = 50;
    /** Two clocks of one office may differ by as much, and a clock that is set by the network steps back by less. */
    private static final Duration STEP = Duration.ofMinutes(5);

    private Preflight() {
    }

    /** @param longestSeconds how long the work may take */
    public static Optional<String> power(Power power, double longestSeconds) {
        if (!power.battery()) {
            return Optional.empty();
        }
        String left = power.percent().isPresent() ? power.percent().getAsInt() + " % left" : "of unknown charge";
        if (power.secondsLeft().isPresent()) {
            boolean lasts = power.secondsLeft().getAsLong() >= longestSeconds + SPARE_SECONDS;
            return lasts ? Optional.empty()
                : Optional.of(
                    "This machine runs on its battery, " + left + ", which lasts about " + Durations.length(power.secondsLeft().getAsLong())
                        + "; the work may take " + Durations.length(longestSeconds) + ". Plug it in, then start.");
        }
        boolean enough = power.percent().isPresent() && power.percent().getAsInt() >= LEAST_PERCENT;
        return enough ? Optional.empty() : Optional.of("This machine runs on its battery, " + left + ", and the work may take "
            + Durations.length(longestSeconds) + ". Plug it in, then start.");
    }

    /**
     * A clock that stands before something that has been written down already runs behind, and would date an image wrongly.
     *
     * @param now    what the clock says
     * @param newest the newest moment on record
     */
    public static Optional<String> clock(Instant now, Instant newest, ZoneId zone) {
        return now.isBefore(newest.minus(STEP))
            ? Optional.of("This machine's clock says " + Moments.full(now, zone) + ", but the journal has a line of "
                + Moments.full(newest, zone) + ". Set the clock, then start: an image dated wrongly is kept or released wrongly.")
            : Optional.empty();
    }
}
