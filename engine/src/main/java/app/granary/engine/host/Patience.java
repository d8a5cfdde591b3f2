package app.granary.engine.host;

import java.io.IOException;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/**
 * Asks what may hang for ever, such as a network folder whose server is gone. Who hangs is asked again only when it has answered, so that
 * no more than one thread waits for each.
 */
final class Patience {
    private final Duration most;
    private final Map<String, FutureTask<?>> hanging = new ConcurrentHashMap<>();

    Patience(Duration most) {
        this.most = most;
    }

    interface Question<T> {
        T answer() throws IOException;
    }

    /** @return empty when there was no answer in time, or a failure for one */
    <T> Optional<T> ask(String whom, Question<T> question) {
        FutureTask<?> before = hanging.get(whom);
        if (before != null && !before.isDone()) {
            return Optional.empty();
        }
        FutureTask<T> asked = new FutureTask<>(question::answer);
        hanging.put(whom, asked);
        Thread thread = new Thread(asked, "granary-asks");
        thread.setDaemon(true);
        thread.start();
        try {
            return Optional.ofNullable(asked.get(most.toMillis(), TimeUnit.MILLISECONDS));
        } catch (TimeoutException hangs) {
            return Optional.empty();
        } catch (ExecutionException failed) {
            return Optional.empty();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
    }
}
