package app.granary.engine.progress;

import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Runs tasks on as many threads as there are processors and hands their results back in the order they were given. Bounded: never more than
 * {@link #slots()} tasks are under way, so buffers can be counted.
 *
 * @param <T> what a task results in
 */
public final class OrderedWork<T> implements Closeable {
    private final ExecutorService workers;
    private final Deque<Future<T>> underWay = new ArrayDeque<>();
    private final int slots;

    public OrderedWork(String name) {
        int threads = Math.max(1, Runtime.getRuntime().availableProcessors());
        this.slots = threads * 2 + 2;
        this.workers = Executors.newFixedThreadPool(threads, work -> {
            Thread thread = new Thread(work, name);
            thread.setDaemon(true);
            return thread;
        });
    }

    public int slots() {
        return slots;
    }

    /** Tasks given and not yet taken back. */
    public int underWay() {
        return underWay.size();
    }

    public void submit(Callable<T> task) {
        underWay.add(workers.submit(task));
    }

    /** Waits for the oldest task and gives its result. */
    public T takeOldest() throws IOException {
        try {
            return underWay.remove().get();
        } catch (ExecutionException failed) {
            Throwable cause = failed.getCause();
            if (cause instanceof IOException io) {
                throw io;
            }
            throw cause instanceof RuntimeException unchecked ? unchecked : new IllegalStateException(cause);
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        }
    }

    /** Stops all workers and waits for those still at a task, so that their buffers and coders may be freed. */
    @Override
    public void close() {
        workers.shutdown();
        boolean interrupted = Thread.interrupted();
        while (!workers.isTerminated()) {
            try {
                workers.awaitTermination(1, java.util.concurrent.TimeUnit.MINUTES);
            } catch (InterruptedException again) {
                interrupted = true;
            }
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }
}
