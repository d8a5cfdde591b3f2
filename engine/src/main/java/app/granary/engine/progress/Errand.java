package app.granary.engine.progress;

import java.util.UUID;

/**
 * Under which key work is asked of another machine, so that it can be asked after once whoever asked was started anew.
 *
 * @param key   of one piece of work, for ever
 * @param again whether it was asked for before: nothing is begun then, and a machine that knows nothing of it says so
 */
public record Errand(UUID key, boolean again) {
    /** One that is asked for the first time, and never after its asker has ended. */
    public static Errand once() {
        return new Errand(UUID.randomUUID(), false);
    }
}
