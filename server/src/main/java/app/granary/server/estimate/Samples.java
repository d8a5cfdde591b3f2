package app.granary.server.estimate;

import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.engine.host.Devices;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.concurrent.Semaphore;
import org.springframework.stereotype.Component;

/** Samples of disks: taken when asked for, kept for a while, shared by all who ask at once; each can be watched and ended early. */
@Component
class Samples {
    /** Choices of a handful of people; past that all are taken anew. */
    private static final int MOST = 400;
    static final int AT_ONCE = 2;

    private final Devices devices;
    private final Clock clock;
    private final Map<Asked, Sampled> kept = new ConcurrentHashMap<>();
    private final Map<Asked, UnderWay> underWay = new ConcurrentHashMap<>();
    /** Each reads a disk and keeps a core busy; in the order they were asked for. */
    private final Semaphore atOnce = new Semaphore(AT_ONCE, true);

    Samples(Devices devices, Clock clock) {
        this.devices = devices;
        this.clock = clock;
    }

    private record Asked(String diskId, Storage storage) {
    }

    private record Sampled(Instant at, HostEstimate estimate) {
    }

    /** A sample being taken. */
    static final class UnderWay implements Watch {
        private final String diskId;
        private final Storage storage;
        private volatile Progress progress = new Progress(Progress.Stage.SAMPLING, 0, 0, 0);
        private volatile boolean enough;
        private FutureTask<HostEstimate> task;

        private UnderWay(Asked asked) {
            diskId = asked.diskId;
            storage = asked.storage;
        }

        @Override
        public void advanced(Progress now) {
            progress = now;
        }

        @Override
        public boolean stopRequested() {
            return enough;
        }

        Storage storage() {
            return storage;
        }

        Progress progress() {
            return progress;
        }
    }

    /** What an image must fit into; asked only when a sample is taken. */
    interface Limits {
        List<Long> bytes() throws IOException;
    }

    /**
     * @param oldest an older one is taken anew; zero for now
     * @param limits what the image must fit into: the sample grows until it is clear of them
     */
    HostEstimate of(String diskId, Storage storage, Duration oldest, Limits limits) throws IOException {
        Asked asked = new Asked(diskId, storage);
        Optional<HostEstimate> known = known(asked, oldest);
        if (known.isPresent()) {
            return known.get();
        }
        UnderWay mine = new UnderWay(asked);
        mine.task = new FutureTask<>(() -> {
            Optional<HostEstimate> justNow = known(asked, oldest); // another may have ended between the look and the claim
            return justNow.isPresent() ? justNow.get() : taken(asked, limits, mine);
        });
        UnderWay first = underWay.putIfAbsent(asked, mine);
        if (first != null) {
            return result(first);
        }
        try {
            inTurn(mine.task);
            return result(mine);
        } finally {
            underWay.remove(asked);
        }
    }

    private Optional<HostEstimate> known(Asked asked, Duration oldest) {
        return Optional.ofNullable(kept.get(asked)).filter(one -> one.at.isAfter(clock.instant().minus(oldest))).map(Sampled::estimate);
    }

    private HostEstimate taken(Asked asked, Limits limits, UnderWay by) throws IOException {
        HostEstimate estimate = devices.estimate(asked.diskId, asked.storage, SampleGoal.clearOf(limits.bytes()), by);
        if (kept.size() >= MOST) {
            kept.clear();
        }
        kept.put(asked, new Sampled(clock.instant(), estimate));
        return estimate;
    }

    private void inTurn(FutureTask<HostEstimate> task) throws IOException {
        try {
            atOnce.acquire();
        } catch (InterruptedException stopped) {
            task.cancel(false); // who waits for the same one does not wait for ever
            throw Rest.interrupted();
        }
        try {
            task.run();
        } finally {
            atOnce.release();
        }
    }

    private static HostEstimate result(UnderWay of) throws IOException {
        try {
            return of.task.get();
        } catch (ExecutionException failed) {
            Throwable cause = failed.getCause();
            if (cause instanceof IOException io) {
                throw io;
            }
            throw cause instanceof RuntimeException unchecked ? unchecked : new IllegalStateException(cause);
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        } catch (CancellationException given) {
            throw new java.nio.channels.ClosedByInterruptException();
        }
    }

    List<UnderWay> underWay(String diskId) {
        return underWay.values().stream().filter(each -> each.diskId.equals(diskId)).toList();
    }

    /** Samples of that disk end with what they have. */
    void enough(String diskId) {
        underWay(diskId).forEach(each -> each.enough = true);
    }
}
