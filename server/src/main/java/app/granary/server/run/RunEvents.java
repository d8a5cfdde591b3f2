package app.granary.server.run;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Tells every open page how the runs stand, at most four times a second, by server-sent events. */
@Component
@EnableScheduling
class RunEvents {
    private final List<SseEmitter> listeners = new CopyOnWriteArrayList<>();
    private final AtomicBoolean changed = new AtomicBoolean();
    private final Runs runs;
    private volatile boolean ending;

    RunEvents(@Lazy Runs runs) {
        this.runs = runs;
    }

    SseEmitter listen() {
        SseEmitter emitter = new SseEmitter(0L);
        emitter.onCompletion(() -> listeners.remove(emitter));
        emitter.onTimeout(() -> listeners.remove(emitter));
        emitter.onError(gone -> listeners.remove(emitter));
        listeners.add(emitter);
        send(emitter);
        if (ending) { // asked after it was added, so that one that begins at this moment is ended by one side or the other
            emitter.complete();
        }
        return emitter;
    }

    void changed() {
        changed.set(true);
    }

    @Scheduled(fixedDelay = 250)
    void tell() {
        if (changed.getAndSet(false)) {
            listeners.forEach(this::send);
        }
    }

    /** Keeps connections open, and finds those whose page has gone. */
    @Scheduled(fixedDelay = 20_000)
    void beat() {
        listeners.forEach(this::send);
    }

    /** Before the web server waits for its requests to end: these never would, and Granary would take as long to stop as it may wait. */
    @EventListener(ContextClosedEvent.class)
    void end() {
        ending = true;
        listeners.forEach(SseEmitter::complete);
    }

    private void send(SseEmitter emitter) {
        try {
            emitter.send(SseEmitter.event().name("runs").data(runs.underWay().stream().map(RunController.Live::from).toList()));
        } catch (IOException | IllegalStateException gone) {
            listeners.remove(emitter);
        }
    }
}
