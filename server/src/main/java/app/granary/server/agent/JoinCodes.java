package app.granary.server.agent;

import app.granary.core.agent.JoinCode;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Codes that computers join by: each once, for a quarter of an hour, in memory only. A stranger may try a few secrets a minute and no more,
 * whatever number of codes is out. Safe for several threads.
 */
final class JoinCodes {
    static final Duration STANDS = Duration.ofMinutes(15);
    /** Wrong secrets from one address within {@link #STANDS}; after them none is taken from it until that time has gone by. */
    static final int MOST_WRONG = 20;
    /** The same from all addresses: whoever has many shuts out others, and still guesses nothing. */
    static final int MOST_WRONG_IN_ALL = 1_000;
    private static final int MOST_OPEN = 50;
    private static final int SECRET_BYTES = 7;

    private final Clock clock;
    private final SecureRandom random = new SecureRandom();
    private final Map<String, Made> open = new HashMap<>();
    private Instant wrongSince = Instant.EPOCH;
    private final Map<String, Integer> wrongFrom = new HashMap<>();
    private int wrong;

    JoinCodes(Clock clock) {
        this.clock = clock;
    }

    /** A code, and how long it stands. */
    record Made(JoinCode code, Instant expiresAt, String by) {
    }

    /** What became of a secret that a computer told. */
    enum Answer {
        TAKEN, UNKNOWN, USED_OR_EXPIRED, TOO_MANY
    }

    private record Gone(Instant at) {
    }

    private final Map<String, Gone> gone = new HashMap<>();

    /** @param digest of the office's certificate */
    synchronized Made make(byte[] digest, String by) {
        tidy();
        if (open.size() >= MOST_OPEN) {
            open.clear();
        }
        byte[] secret = new byte[SECRET_BYTES];
        random.nextBytes(secret);
        Made made = new Made(JoinCode.of(secret, digest), clock.instant().plus(STANDS), by);
        open.put(made.code().secret(), made);
        return made;
    }

    /**
     * @param from address of the computer
     * @return what is to be said of it; the code itself when it was taken, and never again
     */
    synchronized Answer take(String secret, String from) {
        tidy();
        if (wrong >= MOST_WRONG_IN_ALL || wrongFrom.getOrDefault(from, 0) >= MOST_WRONG) {
            return Answer.TOO_MANY;
        }
        Made made = open.remove(secret);
        if (made != null) {
            gone.put(secret, new Gone(clock.instant()));
            return Answer.TAKEN;
        }
        if (gone.containsKey(secret)) {
            return Answer.USED_OR_EXPIRED;
        }
        if (wrong++ == 0) {
            wrongSince = clock.instant();
        }
        wrongFrom.merge(from, 1, Integer::sum);
        return Answer.UNKNOWN;
    }

    private void tidy() {
        Instant now = clock.instant();
        open.values().removeIf(each -> {
            boolean over = !each.expiresAt().isAfter(now);
            if (over) {
                gone.put(each.code().secret(), new Gone(now));
            }
            return over;
        });
        gone.values().removeIf(each -> each.at().isBefore(now.minus(Duration.ofHours(1))));
        if (wrong > 0 && wrongSince.isBefore(now.minus(STANDS))) {
            wrong = 0;
            wrongFrom.clear();
        }
    }

    /** Those that may still be taken. */
    synchronized int open() {
        tidy();
        return open.size();
    }

    /** Who made it, while it is open. */
    synchronized Optional<String> madeBy(String secret) {
        return Optional.ofNullable(open.get(secret)).map(Made::by);
    }
}
