package app.granary.server.queue;

import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.stereotype.Component;

/** Whether how runs stand has changed since somebody looked. */
@Component
public class RunChanges {
    private final AtomicBoolean changed = new AtomicBoolean();

    void note() {
        changed.set(true);
    }

    /** @return whether anything changed since this was asked before */
    public boolean take() {
        return changed.getAndSet(false);
    }
}
