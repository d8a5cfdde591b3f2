package app.granary.server.queue;

import app.granary.core.claim.Claims;
import app.granary.core.claim.DeviceClaim;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;

/** What a run waits for. Only the queue asks, under its lock. */
final class RunWaits {
    private final Orders orders;
    private final Passphrases passphrases;
    private final Claims<UUID> claims;
    /** Of those that wait; asking for them takes a moment, and they are asked for again before one begins. */
    private final Map<UUID, List<DeviceClaim>> wanted = new HashMap<>();

    RunWaits(Orders orders, Passphrases passphrases, Claims<UUID> claims) {
        this.orders = orders;
        this.passphrases = passphrases;
        this.claims = claims;
    }

    /** @param sentence the same for people; an empty string for nothing */
    record Wait(Run.Waits what, String sentence) {
        static final Wait NONE = new Wait(Run.Waits.NOTHING, "");
    }

    /**
     * None when it may start, and holds its devices from then on.
     *
     * @param full  how many are under way when no more may be; else 0
     * @param ahead of those that come first; this one is added when it waits for a device
     * @param names of runs, for the sentence
     */
    Wait of(RunRow run, int full, List<Claims.Ahead<UUID>> ahead, Function<UUID, String> names) {
        if (orders.needsPassphrase(run) && passphrases.of(run.id()).isNone()) {
            return new Wait(Run.Waits.PASSPHRASE, "It waits for its passphrase, which was not kept when Granary ended.");
        }
        String first = orders.notYet(run);
        if (!first.isEmpty()) {
            return new Wait(Run.Waits.COMPUTER, first);
        }
        if (full > 0) {
            return new Wait(Run.Waits.TURN, "It waits until one of the " + full + " runs under way has ended.");
        }
        List<DeviceClaim> asked = wanted.computeIfAbsent(run.id(), none -> orders.claims(run));
        Optional<Claims.Blocked<UUID>> blocked = claims.blocked(asked);
        if (blocked.isEmpty()) {
            asked = orders.claims(run);
            blocked = claims.take(run.id(), asked, ahead);
        }
        if (blocked.isEmpty()) {
            return Wait.NONE;
        }
        ahead.add(new Claims.Ahead<>(run.id(), asked));
        return new Wait(Run.Waits.DEVICE, "It waits until " + blocked.get().device().name() + " is free: " + names.apply(blocked.get().by())
            + (blocked.get().holds() ? " uses it." : " comes first."));
    }

    void forget(Run run) {
        wanted.remove(run.id());
    }
}
