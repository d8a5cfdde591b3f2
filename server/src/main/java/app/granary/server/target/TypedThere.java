package app.granary.server.target;

import app.granary.core.agent.Protocol;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.target.TargetDisk;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/**
 * What was typed at the console of the computer a disk is in, to confirm that it may be overwritten: whoever stands there can read its
 * serial, and whoever sits at the office cannot. Good once, for a quarter of an hour, and for that very disk. Safe for several threads.
 */
@Component
public class TypedThere {
    private static final Duration GOOD_FOR = Duration.ofMinutes(Protocol.TYPED_GOOD_MINUTES);

    private final Map<String, Typed> byTarget = new ConcurrentHashMap<>();
    private final Clock clock;

    TypedThere(Clock clock) {
        this.clock = clock;
    }

    /**
     * @param disk  that it was typed for
     * @param where name of the computer
     */
    public record Typed(DiskIdentity disk, String typed, String where, Instant at) {
    }

    /** Whatever was typed for it before is forgotten. */
    public void typed(TargetDisk target, String characters, String where) {
        byTarget.put(target.id(), new Typed(target.identity(), characters, where, clock.instant()));
    }

    /** Empty when nothing was, or it is not good any more. */
    public Optional<Typed> find(TargetDisk target) {
        return Optional.ofNullable(byTarget.get(target.id())).filter(each -> each.disk.same(target.identity())
            && clock.instant().isBefore(each.at.plus(GOOD_FOR)));
    }

    /** It was used. */
    void forget(TargetDisk target) {
        byTarget.remove(target.id());
    }
}
