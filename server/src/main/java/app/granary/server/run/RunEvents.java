package app.granary.server.run;

import app.granary.server.account.Accounts;
import app.granary.server.account.SessionEnded;
import app.granary.server.change.Changes;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Tells every open page how the runs stand and what else has changed, at most four times a second, by server-sent events. */
@Component
@EnableScheduling
class RunEvents {
    private final List<Listener> listeners = new CopyOnWriteArrayList<>();
    /** Every open page of a browser is one; a browser opens six at most to one address (common practice, no source). */
    private static final int MOST_OF_ONE = 50;
    private final LiveLines live;
    private final Changes changes;
    private final Accounts accounts;
    private volatile boolean ending;

    /** A page that listens, and by whose sign-in it may. */
    private record Listener(SseEmitter emitter, String sessionId, String name, Instant since) {
    }

    RunEvents(LiveLines live, Changes changes, Accounts accounts) {
        this.live = live;
        this.changes = changes;
        this.accounts = accounts;
    }

    /** @throws Refused when so many pages of one person listen already that another would only cost */
    SseEmitter listen(String sessionId, String name, Instant since) {
        if (listeners.stream().filter(each -> each.name.equals(name)).count() >= MOST_OF_ONE) {
            throw new Refused(HttpStatus.TOO_MANY_REQUESTS, "too-many-pages", "",
                "So many pages of " + name + " are open that no more can follow the runs. Close some of them.");
        }
        SseEmitter emitter = new SseEmitter(0L);
        Listener listener = new Listener(emitter, sessionId, name, since);
        emitter.onCompletion(() -> listeners.remove(listener));
        emitter.onTimeout(() -> listeners.remove(listener));
        emitter.onError(gone -> listeners.remove(listener));
        listeners.add(listener);
        send(listener);
        if (ending) { // asked after it was added, so that one that begins at this moment is ended by one side or the other
            emitter.complete();
        }
        return emitter;
    }

    @Scheduled(fixedDelay = 250)
    void tell() {
        Set<Changes.Noun> changed = changes.take();
        if (changed.contains(Changes.Noun.PROGRESS) || changed.contains(Changes.Noun.RUNS)) {
            listeners.forEach(this::send);
        }
        List<String> lists = changed.stream().filter(each -> each != Changes.Noun.PROGRESS).map(Changes.Noun::word).sorted().toList();
        if (!lists.isEmpty()) {
            listeners.forEach(each -> send(each, SseEmitter.event().name("changed").data(lists)));
        }
    }

    /** Keeps connections open, and finds those whose page has gone. */
    @Scheduled(fixedDelay = 20_000)
    void beat() {
        listeners.forEach(this::send);
    }

    /** A stream ends with the sign-in it was opened by. */
    @EventListener
    void signedOut(SessionEnded ended) {
        listeners.stream().filter(each -> each.sessionId.equals(ended.sessionId())).forEach(each -> each.emitter.complete());
    }

    /** An account that was closed, changed or signed out everywhere hears nothing more. */
    @Scheduled(fixedDelay = 2_000)
    void endOfClosed() {
        listeners.stream().filter(each -> accounts.signedIn(each.name, each.since).isEmpty()).forEach(each -> each.emitter.complete());
    }

    /** Before the web server waits for its requests to end: these never would, and Granary would take as long to stop as it may wait. */
    @EventListener(ContextClosedEvent.class)
    void end() {
        ending = true;
        listeners.forEach(each -> each.emitter.complete());
    }

    private void send(Listener listener) {
        send(listener, SseEmitter.event().name("runs").data(live.now()));
    }

    private void send(Listener listener, SseEmitter.SseEventBuilder event) {
        try {
            listener.emitter.send(event);
        } catch (IOException | IllegalStateException gone) {
            listeners.remove(listener);
        }
    }
}
