package app.granary.engine.source;

import app.granary.core.fault.Fault;
import app.granary.engine.progress.Rest;
import java.io.Closeable;
import java.io.IOException;
import java.util.OptionalLong;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicReference;

/**
 * Writes and flushes that nobody waits for, in the order given, while the next bytes are being made. The first that fails is kept, what was
 * given after it is left undone, and every later call tells it: the system tells a failed flush only once, so a second flush would succeed
 * as if nothing had been lost.
 */
final class WriteBehind implements Closeable {
    /** Something that is written or flushed. */
    interface Action {
        void run() throws IOException;
    }

    private final String name;
    private final AtomicReference<Fault> failure = new AtomicReference<>();
    private final ExecutorService worker = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "granary-write-behind");
        thread.setDaemon(true);
        return thread;
    });

    /** @param name of what is written, for a failure's sentence */
    WriteBehind(String name) {
        this.name = name;
    }

    /**
     * Gives something to be done.
     *
     * @param offsetBytes where it writes; empty for a flush
     * @param afterwards  run in any case, whether the action was, failed, or was left undone; not when this throws
     */
    Future<?> later(OptionalLong offsetBytes, Action action, Runnable afterwards) throws IOException {
        requireNoFailure();
        return worker.submit(() -> {
            try {
                run(offsetBytes, action);
            } finally {
                afterwards.run();
            }
        });
    }

    /**
     * Runs something after all that was given before, and waits for it.
     *
     * @throws app.granary.core.fault.FaultException when it, or anything before it, failed
     */
    void now(Action action) throws IOException {
        try {
            later(OptionalLong.empty(), action, () -> {}).get();
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        } catch (ExecutionException unforeseen) {
            throw new IllegalStateException(unforeseen.getCause());
        }
        requireNoFailure();
    }

    private void run(OptionalLong offsetBytes, Action action) {
        if (failure.get() != null) {
            return;
        }
        try {
            action.run();
        } catch (IOException failed) {
            String where = offsetBytes.isPresent() ? " at byte " + offsetBytes.getAsLong() : "";
            failure.set(new Fault(Fault.Kind.DEVICE_FAILED, name, offsetBytes, "", "" + failed.getMessage(),
                name + " could not be written" + where + ": " + failed.getMessage()
                    + ". What is on it cannot be relied on; check its cable, or use another."));
        }
    }

    private void requireNoFailure() throws IOException {
        if (failure.get() != null) {
            throw failure.get().asException();
        }
    }

    /** Waits for nothing: what was given and not yet done fails once its channel is closed. */
    @Override
    public void close() {
        worker.shutdown();
    }
}
