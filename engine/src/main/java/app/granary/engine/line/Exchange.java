package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.engine.progress.Errand;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.NotNow;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;

/**
 * The office's side of the line to one computer: asks, waits for the ends, and asks again whenever the line is taken up anew, under the
 * same keys. Safe for several threads.
 */
final class Exchange {
    /** A question without long work is not waited for longer. */
    private static final Duration SHORT = Duration.ofSeconds(30);
    /** A piece of a file is asked for anew after this: over a slow network it takes a while. */
    private static final Duration PIECE = Duration.ofSeconds(60);
    private static final int MOST_PAST = 1_000;
    private static final long LOOK_MILLIS = 200;

    private final String name;
    private final Duration patience;
    private final Map<UUID, Pending> pending = new ConcurrentHashMap<>();
    /** What this office asked for and does not wait for any more: its end may come yet, or once more,
        when it was not heard that it came. */
    private final Set<UUID> past = ConcurrentHashMap.newKeySet();
    private volatile Optional<Consumer<Message>> line = Optional.empty();
    private volatile boolean ended;
    /** When the line was lost, by the clock that only counts; before the first line, when it began to be waited for. */
    private volatile long lost = System.nanoTime();

    /** @param told to ask for it, now and whenever the line is taken up anew */
    private record Pending(UUID key, Message told, Watch watch, CompletableFuture<JsonNode> end, Progress[] progress) {
        static Pending of(UUID key, Message told, Watch watch) {
            return new Pending(key, told, watch, new CompletableFuture<>(), new Progress[1]);
        }
    }

    /** @param patience with a line that was lost: nothing is refused until it is gone for so long */
    Exchange(String name, Duration patience) {
        this.name = name;
        this.patience = patience;
    }

    void over(Consumer<Message> open) {
        line = Optional.of(open);
        pending.values().forEach(each -> open.accept(each.told));
    }

    void broken() {
        if (reached()) {
            lost = System.nanoTime();
        }
        line = Optional.empty();
    }

    boolean reached() {
        return line.isPresent();
    }

    /** It was sent away: whatever waits for it is told so. */
    void end() {
        ended = true;
        pending.values().forEach(each -> each.end.completeExceptionally(gone()));
    }

    private IOException gone() {
        return Fault.of(Fault.Kind.DEVICE_FAILED, name, name + " was sent away while it worked. What it had begun lies there unfinished, "
            + "and can be carried on when it has joined again.").asException();
    }

    private void tell(Message message) {
        line.ifPresent(open -> open.accept(message));
    }

    void hear(Message message) {
        if (message instanceof Message.Advanced told) {
            Optional.ofNullable(pending.get(told.key())).ifPresent(each -> {
                synchronized (each) {
                    each.progress[0] = told.progress();
                }
            });
        } else if (message instanceof Message.Held held) {
            Optional.ofNullable(pending.get(held.key())).ifPresent(each -> each.watch.heldThere(held.held()));
        } else if (message instanceof Message.Done done) {
            heard(done.key());
            Optional.ofNullable(pending.get(done.key())).ifPresent(each -> each.end.complete(done.result()));
        } else if (message instanceof Message.Refused refused) {
            fail(refused.key(), refused);
        } else if (message instanceof Message.NotDone not) {
            fail(not.key(), not);
        }
    }

    /** An end that is not waited for yet may be of work that this office asked for before it was started anew: it is left there. */
    private void heard(UUID key) {
        if (pending.containsKey(key) || past.contains(key)) {
            tell(new Message.Heard(key));
        }
    }

    private void notWaitedFor(UUID key) {
        if (past.size() >= MOST_PAST) {
            past.clear(); // the other side keeps far fewer ends than these
        }
        past.add(key);
    }

    private void fail(UUID key, Message end) {
        heard(key);
        Optional.ofNullable(pending.get(key)).ifPresent(each -> each.end.completeExceptionally(LineFiles.thrown(end)));
    }

    /** Asks, now or when the line is taken up anew, and waits for no answer. */
    void leave(String port, String call, List<JsonNode> arguments) {
        UUID key = UUID.randomUUID();
        Pending mine = Pending.of(key, new Message.Ask(key, port, "", call, arguments), Watch.NONE);
        pending.put(key, mine);
        mine.end.whenComplete((end, failed) -> {
            notWaitedFor(key);
            pending.remove(key);
        });
        tell(mine.told);
    }

    /**
     * Asks, and waits for the end: for long work as long as it takes, whether there is a line or not.
     *
     * @param watch told from the thread that asks, and asked there whether to go on
     */
    JsonNode ask(String port, String of, String call, List<JsonNode> arguments, boolean watched, Watch watch) throws IOException {
        boolean file = port.equals(Calls.FILES);
        Errand errand = watched ? watch.errand() : Errand.once();
        UUID key = errand.key();
        Pending mine = Pending.of(key, errand.again() ? new Message.Again(key) : new Message.Ask(key, port, of, call, arguments),
            watch);
        requireBegin(file, watched, errand, watch);
        pending.put(key, mine);
        try {
            tell(mine.told);
            return watched ? watch(mine, watch) : mine.end.get((file ? PIECE : SHORT).toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException silent) {
            if (file) {
                throw new NotNow(name);
            }
            throw Fault.of(Fault.Kind.DEVICE_FAILED, name, name + " did not answer within " + SHORT.toSeconds()
                + " s. Check its cable, then try again.").asException();
        } catch (InterruptedException stopped) {
            tell(new Message.Stop(key));
            throw Rest.interrupted();
        } catch (ExecutionException failed) {
            throw failed.getCause() instanceof IOException known ? known : new IOException(failed.getCause());
        } finally {
            notWaitedFor(key);
            pending.remove(key);
        }
    }

    /** @param file whether a call of a folder is asked, which somebody asks again when it cannot be now */
    private void requireBegin(boolean file, boolean watched, Errand errand, Watch watch) throws IOException {
        if (ended) {
            throw gone();
        }
        if (!reached() && file && !watched) {
            throw new NotNow(name);
        }
        if (!file && !errand.again()) {
            requireLine(watch);
        }
        if (watched && !errand.again()) {
            watch.requireGoingOn(name); // what a person stopped already is not begun over there
        }
    }

    /** Work under way outlives a cable that is pulled and put back; what is begun in that moment does so, too. */
    private void requireLine(Watch watch) throws IOException {
        while (!reached()) {
            if (System.nanoTime() - lost >= patience.toNanos()) {
                throw Fault.of(Fault.Kind.DEVICE_FAILED, name, name + " cannot be reached now. Check its cable, then try again.")
                    .asException();
            }
            Rest.millis(LOOK_MILLIS);
            watch.requireGoingOn(name);
            if (ended) {
                throw Fault.of(Fault.Kind.DEVICE_FAILED, name, name + " was sent away. Nothing was begun there; let it join again first.")
                    .asException();
            }
        }
    }

    private JsonNode watch(Pending mine, Watch watch) throws IOException, InterruptedException, ExecutionException {
        Optional<IOException> against = Optional.empty();
        while (true) {
            try {
                JsonNode end = mine.end.get(LOOK_MILLIS, TimeUnit.MILLISECONDS);
                told(mine, watch);
                return end;
            } catch (TimeoutException underWay) {
                told(mine, watch);
                against = against.isPresent() ? against : held(mine, watch);
                if (against.isPresent()) {
                    tell(new Message.Stop(mine.key));
                }
            } catch (ExecutionException failed) {
                if (against.isPresent() && failed.getCause() instanceof app.granary.core.fault.FaultException known
                    && known.fault().kind() == Fault.Kind.STOPPED) {
                    throw against.get();
                }
                throw failed;
            }
        }
    }

    private static void told(Pending mine, Watch watch) {
        Progress now;
        synchronized (mine) {
            now = mine.progress[0];
            mine.progress[0] = null;
        }
        if (now != null) {
            watch.advanced(now);
        }
    }

    /** Asks whether to go on; a pause holds this thread, and meanwhile the work over there. */
    private Optional<IOException> held(Pending mine, Watch watch) {
        boolean[] over = new boolean[2];
        CompletableFuture<Void> waited = new CompletableFuture<Void>().completeOnTimeout(null, 2 * LOOK_MILLIS, TimeUnit.MILLISECONDS);
        waited.thenRun(() -> {
            synchronized (over) {
                over[1] = !over[0];
                if (over[1]) {
                    tell(new Message.Hold(mine.key, true));
                }
            }
        });
        try {
            watch.requireGoingOn(name);
            return Optional.empty();
        } catch (IOException against) {
            return Optional.of(against);
        } finally {
            waited.cancel(false);
            synchronized (over) {
                over[0] = true;
                if (over[1]) {
                    tell(new Message.Hold(mine.key, false));
                }
            }
        }
    }
}
