package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.engine.host.Lender;
import app.granary.engine.progress.Rest;
import app.granary.engine.remote.PatientFiles;
import app.granary.engine.remote.RemoteFiles;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
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

    private final Lender.Loan loan;
    private final Answering answering;
    private final Map<UUID, LinkedBlockingQueue<Message>> waiting = new ConcurrentHashMap<>();
    private final Deque<UUID> ended = new ArrayDeque<>();
    private volatile boolean closed;

    /** @param name of the office, for sentences */
    public Lent(Lender.Loan loan, String name) {
        this.loan = loan;
        RemoteFiles patient = PatientFiles.of(loan.files(), () -> closed);
        this.answering = new Answering((port, of) -> port.equals(Calls.FILES) ? Optional.of(patient) : Optional.empty(), name);
        answering.over(this::told);
    }

    /** Where what is told goes; fails when nobody listens any more, which ends nothing. */
    public interface Listener {
        void tell(Message message) throws IOException;
    }

    /** To be read and written at once, by whoever asks again when it cannot be reached: {@link app.granary.engine.remote.NotNow}. */
    public RemoteFiles files() {
        return loan.files();
    }

    private void told(Message message) {
        UUID key = message instanceof Message.Advanced now ? now.key() : message instanceof Message.Done done ? done.key()
            : message instanceof Message.Refused refused ? refused.key() : ((Message.NotDone) message).key();
        Optional.ofNullable(waiting.get(key)).ifPresent(each -> each.add(message));
    }

    /** What a failed reading or writing is told as. */
    public static Message ended(IOException failed) {
        return ended(new UUID(0, 0), failed, "the office");
    }

    static Message ended(UUID key, Throwable failed, String name) {
        if (failed instanceof FileSystemException file) {
            if (failed instanceof NoSuchFileException) {
                return new Message.NotDone(key, Message.Why.MISSING, String.valueOf(file.getFile()));
            } else if (failed instanceof FileAlreadyExistsException) {
                return new Message.NotDone(key, Message.Why.THERE_ALREADY, String.valueOf(file.getFile()));
            } else if (failed instanceof DirectoryNotEmptyException) {
                return new Message.NotDone(key, Message.Why.NOT_EMPTY, String.valueOf(file.getFile()));
            }
        }
        return new Message.Refused(key, Answering.fault(failed, name));
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
            throw Rest.interrupted();
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
        loan.close();
    }
}
