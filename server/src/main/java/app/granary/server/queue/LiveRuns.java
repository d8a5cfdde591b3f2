package app.granary.server.queue;

import java.util.Collection;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Supplier;

/** Runs under way, and how many may be. Safe for several threads. */
final class LiveRuns {
    /** At all machines together: each costs the office a thread and some pieces of an image, whoever does the work. */
    static final int MOST = 48;
    /** A capture already uses all processors; a second may run beside it on small machines, on larger ones one for each pair of cores. */
    private static final int AT_ONCE = Math.max(2, Runtime.getRuntime().availableProcessors() / 2);

    private final Map<UUID, LiveRun> live = new ConcurrentHashMap<>();

    Optional<LiveRun> find(UUID id) {
        return Optional.ofNullable(live.get(id));
    }

    Collection<LiveRun> all() {
        return live.values();
    }

    /**
     * @param serial of the disk it is about; empty when that has none
     * @param at     the machine that does it
     * @param again  whether it was under way before Granary was started anew
     */
    LiveRun begin(RunRow run, String serial, String at, boolean again, Consumer<LiveRun> changed) {
        LiveRun running = new LiveRun(run, serial, changed, again);
        lower(running, run.lowPriority());
        running.at(at);
        live.put(run.id(), running);
        return running;
    }

    void end(UUID id) {
        live.remove(id);
    }

    void lower(LiveRun running, boolean low) {
        running.giveWay(low, this::usualUnderWay);
    }

    private boolean usualUnderWay() {
        return live.values().stream().anyMatch(other -> !other.low() && !other.paused());
    }

    /** How many are under way at a machine, when no more may be; else 0. It is asked for only when it matters. */
    int full(Supplier<String> machine) {
        if (live.size() < AT_ONCE) {
            return 0;
        }
        String where = machine.get();
        long there = live.values().stream().filter(each -> where.equals(each.machine())).count();
        return live.size() >= MOST ? MOST : there >= AT_ONCE ? AT_ONCE : 0;
    }
}
