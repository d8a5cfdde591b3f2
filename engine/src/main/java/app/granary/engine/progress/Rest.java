package app.granary.engine.progress;

import java.io.IOException;
import java.nio.channels.ClosedByInterruptException;

/** Waiting in the middle of reading and writing. */
public final class Rest {
    private Rest() {
    }

    /** @throws ClosedByInterruptException when the thread is stopped meanwhile, as reading and writing would */
    public static void millis(long millis) throws IOException {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException stopped) {
            throw interrupted();
        }
    }

    /** What whoever was stopped while it waited ends with; the thread stays stopped. */
    public static IOException interrupted() {
        Thread.currentThread().interrupt();
        return new ClosedByInterruptException();
    }
}
