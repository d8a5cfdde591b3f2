package app.granary.core.claim;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Who holds which devices. All of a run's devices are taken at once or none is, so that no two wait for each other. Safe for several
 * threads.
 *
 * @param <H> who holds: a run's identity
 */
public final class Claims<H> {
    private final Map<H, List<DeviceClaim>> held = new LinkedHashMap<>();

    /**
     * What stands in the way.
     *
     * @param device the device both want
     * @param by     who has it, or comes first
     * @param holds  whether that one holds it; else it waits for it, and comes first
     */
    public record Blocked<H>(Device device, H by, boolean holds) {
    }

    /**
     * Someone who waits and comes first. Its devices are left to it even while they are free: otherwise it could wait for ever for two that
     * are never free at once.
     */
    public record Ahead<H>(H who, List<DeviceClaim> claims) {
        public Ahead {
            claims = List.copyOf(claims);
        }
    }

    /**
     * Takes all devices, or says what stands in the way and takes none.
     *
     * @param ahead who comes first, in any order
     * @throws IllegalStateException when {@code who} holds devices already
     */
    public synchronized Optional<Blocked<H>> take(H who, List<DeviceClaim> claims, List<Ahead<H>> ahead) {
        if (held.containsKey(who)) {
            throw new IllegalStateException(who + " holds its devices already");
        }
        Optional<Blocked<H>> blocked = blocked(claims).or(() -> ahead.stream().flatMap(each -> between(each.who, each.claims, claims,
            false).stream()).findFirst());
        if (blocked.isEmpty()) {
            held.put(who, List.copyOf(claims));
        }
        return blocked;
    }

    /** Who holds a device that {@code claims} could not be held beside; empty when all of them are free. */
    public synchronized Optional<Blocked<H>> blocked(List<DeviceClaim> claims) {
        return held.entrySet().stream().flatMap(each -> between(each.getKey(), each.getValue(), claims, true).stream()).findFirst();
    }

    /** Gives back all that {@code who} holds; nothing happens when it holds nothing. */
    public synchronized void free(H who) {
        held.remove(who);
    }

    /** What is held now. */
    public synchronized List<DeviceClaim> held() {
        List<DeviceClaim> out = new ArrayList<>();
        held.values().forEach(out::addAll);
        return out;
    }

    private static <H> Optional<Blocked<H>> between(H who, List<DeviceClaim> theirs, List<DeviceClaim> ours, boolean holds) {
        return theirs.stream().filter(their -> ours.stream().anyMatch(our -> !our.besides(their))).findFirst()
            .map(their -> new Blocked<>(their.device(), who, holds));
    }
}
