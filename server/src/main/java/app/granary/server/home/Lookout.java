package app.granary.server.home;

import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/** Looks every second in a thread of its own: what repairs a failing database must not wait behind work that waits for the database. */
public final class Lookout implements AutoCloseable {
    private final ScheduledExecutorService looks;

    /** @param name of the thread */
    public Lookout(String name, Runnable look) {
        looks = Executors.newSingleThreadScheduledExecutor(work -> {
            Thread thread = new Thread(work, name);
            thread.setDaemon(true);
            return thread;
        });
        looks.scheduleWithFixedDelay(look, 3000, 1000, TimeUnit.MILLISECONDS);
    }

    @Override
    public void close() {
        looks.shutdownNow();
    }
}
