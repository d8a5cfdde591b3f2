package app.granary.server.inside;

import app.granary.engine.openpgp.Passphrase;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** Passphrases of images somebody looks into: in memory alone, for whoever typed them, and forgotten when they are not used for a while. */
@Component
class Unlocked {
    /** After which it is asked for again. */
    static final Duration GOOD = Duration.ofMinutes(15);

    private final Map<Who, Kept> kept = new ConcurrentHashMap<>();
    private final Clock clock;

    private record Who(String account, UUID imageId) {
    }

    private record Kept(Passphrase passphrase, Instant usedAt) {
    }

    Unlocked(Clock clock) {
        this.clock = clock;
    }

    void keep(String account, UUID imageId, Passphrase passphrase) {
        kept.put(new Who(account, imageId), new Kept(passphrase, clock.instant()));
    }

    /** @param imageId of the image, whichever of its copies is looked into; none when it is not known, or was not used for long */
    Passphrase of(String account, UUID imageId) {
        Instant now = clock.instant();
        kept.values().removeIf(each -> each.usedAt.plus(GOOD).isBefore(now));
        Kept found = kept.computeIfPresent(new Who(account, imageId), (who, known) -> new Kept(known.passphrase, now));
        return found == null ? Passphrase.NONE : found.passphrase;
    }
}
