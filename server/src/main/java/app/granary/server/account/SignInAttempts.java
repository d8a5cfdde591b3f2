package app.granary.server.account;

import app.granary.server.problem.Refused;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/**
 * Slows guessing. Each try is counted before its password is looked at, so that guesses made side by side count too, for the name at that
 * address, for the address, and for the name from anywhere. Nobody is locked out: the longest wait is a minute, and guesses from elsewhere
 * do not slow a name where it signed in before.
 */
@Component
class SignInAttempts {
    /** Tries of one name at one address that cost nothing. */
    static final int FREE = 5;
    /** Tries from one address, and of one name from anywhere. */
    private static final int FREE_IN_ALL = 20;
    private static final Duration FORGOTTEN_AFTER = Duration.ofMinutes(15);
    private static final Duration LONGEST = Duration.ofMinutes(1);
    private static final Duration LONGEST_FROM_ANYWHERE = Duration.ofSeconds(5);
    /** Names tried by a machine must not fill the memory. */
    private static final int REMEMBERED = 10_000;

    private final Clock clock;
    private final Map<List<String>, Tries> tries = remembering();
    private final Map<List<String>, Boolean> known = remembering();

    /** @param next no try counts before it */
    private record Tries(int count, Instant last, Instant next) {
        static final Tries NONE = new Tries(0, Instant.EPOCH, Instant.EPOCH);
    }

    SignInAttempts(Clock clock) {
        this.clock = clock;
    }

    private static <V> Map<List<String>, V> remembering() {
        return new LinkedHashMap<>() {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<List<String>, V> eldest) {
                return size() > REMEMBERED;
            }
        };
    }

    /**
     * Counts a try.
     *
     * @return zero when the password may be looked at; else how long to wait, and the try is not one
     */
    synchronized Duration begin(String name, String address) {
        Instant now = clock.instant();
        Set<List<String>> keys = new HashSet<>();
        keys.add(List.of(name, address));
        if (!known.containsKey(List.of(name, address))) {
            keys.add(List.of("", address));
            keys.add(List.of(name, ""));
        }
        Duration wait = Duration.ZERO;
        for (List<String> key : keys) {
            Duration until = Duration.between(now, of(key, now).next);
            wait = until.compareTo(wait) > 0 ? until : wait;
        }
        if (wait.isZero()) {
            keys.forEach(key -> tries.put(key, again(key, of(key, now), now)));
        }
        return wait;
    }

    private Tries of(List<String> key, Instant now) {
        Tries found = tries.getOrDefault(key, Tries.NONE);
        return found.last.plus(FORGOTTEN_AFTER).isBefore(now) ? Tries.NONE : found;
    }

    private static Tries again(List<String> key, Tries before, Instant now) {
        boolean pair = !key.get(0).isEmpty() && !key.get(1).isEmpty();
        int over = before.count + 1 - (pair ? FREE : FREE_IN_ALL);
        Duration longest = key.get(1).isEmpty() ? LONGEST_FROM_ANYWHERE : LONGEST;
        Duration wait = over < 0 ? Duration.ZERO : Duration.ofSeconds(1L << Math.min(over, 10));
        return new Tries(before.count + 1, now, now.plus(wait.compareTo(longest) > 0 ? longest : wait));
    }

    /** @throws Refused when it has to wait */
    void require(String name, String address) {
        Duration wait = begin(name, address);
        if (!wait.isZero()) {
            throw new Refused(HttpStatus.TOO_MANY_REQUESTS, "too-many-attempts", "password",
                "Too many wrong passwords. Wait " + Math.max(1, wait.toSeconds())
                    + " s, and try again.");
        }
    }

    /** What was tried before is forgotten where it succeeded. */
    synchronized void succeeded(String name, String address) {
        tries.remove(List.of(name, address));
        tries.remove(List.of("", address));
        known.put(List.of(name, address), true);
    }
}
