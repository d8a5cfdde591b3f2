package app.granary.server.target;

import app.granary.core.disk.Replugging;
import app.granary.core.disk.Replugging.State;
import app.granary.core.disk.SeenDisk;
import app.granary.engine.host.Devices;
import app.granary.server.problem.Refused;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/**
 * Watches a person pull a disk and plug it in again, where nothing else tells which of several it is. What was told holds for that
 * attachment.
 */
@Component
class Replugs {
    private static final Logger LOG = LoggerFactory.getLogger(Replugs.class);
    private static final long LOOK_EVERY_MILLIS = 400;
    private static final Duration PATIENCE = Duration.ofMinutes(3);

    private final Devices devices;
    private final Clock clock;
    private final Set<String> told = ConcurrentHashMap.newKeySet();
    private final ScheduledExecutorService looks = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "granary-replug");
        thread.setDaemon(true);
        return thread;
    });
    private Watching watching;
    private ScheduledFuture<?> looking;

    /** What is being watched. */
    private record Watching(SeenDisk asked, Instant until, Replugging replugging, boolean late) {
    }

    /**
     * How far it is.
     *
     * @param state    "none", "watching", "pulled", "told", "unclear", "late"
     * @param targetId of the disk that is meant, once it is told; an empty string before
     */
    record Progress(String state, String name, String targetId) {
    }

    Replugs(Devices devices, Clock clock) {
        this.devices = devices;
        this.clock = clock;
    }

    /** Begins to watch; what was watched before is dropped. */
    synchronized Progress begin(String targetId) throws IOException {
        List<SeenDisk> seen = devices.seen();
        SeenDisk asked = seen.stream().filter(each -> each.id().equals(targetId)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.NOT_FOUND, "not-found", "targetId",
                "That disk is not attached. Attach it and try again."));
        end();
        watching = new Watching(asked, clock.instant().plus(PATIENCE), Replugging.of(alike(asked, seen)), false);
        looking = looks.scheduleWithFixedDelay(this::look, LOOK_EVERY_MILLIS, LOOK_EVERY_MILLIS, TimeUnit.MILLISECONDS);
        return progress();
    }

    private static List<SeenDisk> alike(SeenDisk asked, List<SeenDisk> seen) {
        return seen.stream().filter(each -> each.identity().alike(asked.identity())).toList();
    }

    private void look() {
        try {
            List<SeenDisk> seen = devices.seen();
            synchronized (this) {
                Replugging next = watching.replugging.look(alike(watching.asked, seen));
                boolean late = clock.instant().isAfter(watching.until);
                watching = new Watching(watching.asked, watching.until, next, late);
                if (next.state() instanceof State.Told is) {
                    told.add(is.attachment());
                }
                if (late || next.state() instanceof State.Told || next.state() instanceof State.Unclear) {
                    end();
                }
            }
        } catch (IOException | RuntimeException cannotTell) {
            LOG.warn("the disks could not be looked at", cannotTell);
        }
    }

    private void end() {
        if (looking != null) {
            looking.cancel(false);
            looking = null;
        }
    }

    synchronized Progress progress() throws IOException {
        if (watching == null) {
            return new Progress("none", "", "");
        }
        String name = watching.asked.name();
        State state = watching.replugging.state();
        if (state instanceof State.Told is) {
            String id = devices.seen().stream().filter(each -> each.attachment().equals(is.attachment())).map(SeenDisk::id)
                .findFirst().orElse("");
            return new Progress("told", name, id);
        }
        String word = state instanceof State.Unclear ? "unclear"
            : watching.late ? "late" : state instanceof State.Pulled ? "pulled" : "watching";
        return new Progress(word, name, "");
    }

    /** Whether a person told it, in this attachment of it. */
    boolean told(String targetId) {
        if (told.isEmpty()) {
            return false;
        }
        try {
            List<SeenDisk> seen = devices.seen();
            told.retainAll(seen.stream().map(SeenDisk::attachment).toList()); // what was pulled since is told no more
            return seen.stream().anyMatch(each -> each.id().equals(targetId) && told.contains(each.attachment()));
        } catch (IOException cannotTell) {
            return false;
        }
    }

    @PreDestroy
    void stop() {
        looks.shutdownNow();
    }
}
