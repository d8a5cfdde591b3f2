package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.engine.remote.ServedFolder;
import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;

/**
 * A folder that is lent to a computer somewhere else, as that one's calls come in: each is done once, however often it is told, and its end
 * is kept until many more have ended. Safe for several threads.
 */
public final class Lent implements Closeable {
    private static final int ENDS_KEPT = 32;
    private static final long BEAT_SECONDS = 5;

    private final ServedFolder folder;
    private final Answering answering;
    private final Map<UUID, LinkedBlockingQueue<Message>> waiting = new ConcurrentHashMap<>();
    private final Deque<UUID> ended = new ArrayDeque<>();
    private volatile boolean closed;

    /** @param name of the office, for sentences */
    public Lent(ServedFolder folder, String name) {
        this.folder = folder;
        this.answering = new Answering((port, of) -> port.equals(Calls.FILES) ? Optional.of(folder) : Optional.empty(), name);
        answering.over(this::told);
    }

    /** Where what is told goes; fails when nobody listens any more, which ends nothing. */
    public interface Listener {
        void tell(Message message) throws IOException;
    }

    public ServedFolder folder() {
        return folder;
    }

    private void told(Message message) {
        UUID key = message instanceof Message.Advanced now ? now.key() : message instanceof Message.Done done ? done.key()
            : message instanceof Message.Refused refused ? refused.key() : ((Message.NotDone) message).key();
        Optional.ofNullable(waiting.get(key)).ifPresent(each -> each.add(message));
    }

    /** Begins the work, or waits for what was begun under that key; returns when its end was told. */
    public void answer(Message.Ask ask, Listener listener) throws IOException {
        LinkedBlockingQueue<Message> mine = new LinkedBlockingQueue<>();
        waiting.put(ask.key(), mine);
        try {
            answering.hear(ask);
            while (true) {
                Message next = mine.poll(BEAT_SECONDS, TimeUnit.SECONDS);
                if (closed && next == null) {
                    throw Fault.of(Fault.Kind.FORBIDDEN, "folder", "That folder is not lent any more.").asException();
                }
                listener.tell(next == null ? new Message.Beat() : next);
                if (next != null && !(next instanceof Message.Advanced)) {
                    end(ask.key());
                    return;
                }
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new java.nio.channels.ClosedByInterruptException();
        } finally {
            waiting.remove(ask.key(), mine);
        }
    }

    /** Work that nobody waits for any more is stopped. */
    public void stop(UUID key) {
        answering.hear(new Message.Stop(key));
    }

    private synchronized void end(UUID key) {
        if (!ended.contains(key)) {
            ended.add(key);
        }
        while (ended.size() > ENDS_KEPT) {
            answering.hear(new Message.Heard(ended.poll()));
        }
    }

    @Override
    public void close() throws IOException {
        closed = true;
        answering.stopAll();
        folder.close();
    }
}
