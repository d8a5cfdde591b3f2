package app.granary.server.account;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Counts failed sign-ins per name and per address; after five within five minutes no more are taken until the oldest has aged. */
@Component
class SignInAttempts {
    static final int LIMIT = 5;
    private static final Duration WITHIN = Duration.ofMinutes(5);
    /** Names tried by a machine must not fill the memory. */
    private static final int REMEMBERED = 10_000;

    private final Clock clock;
    private final Map<String, Deque<Instant>> failures = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Deque<Instant>> eldest) {
            return size() > REMEMBERED;
        }
    };

    SignInAttempts(Clock clock) {
        this.clock = clock;
    }

    synchronized boolean tooMany(String who) {
        Deque<Instant> times = failures.getOrDefault(who, new ArrayDeque<>());
        Instant oldest = clock.instant().minus(WITHIN);
        times.removeIf(time -> time.isBefore(oldest));
        return times.size() >= LIMIT;
    }

    synchronized void failed(String who) {
        failures.computeIfAbsent(who, name -> new ArrayDeque<>()).add(clock.instant());
    }

    synchronized void succeeded(String who) {
        failures.remove(who);
    }
}
