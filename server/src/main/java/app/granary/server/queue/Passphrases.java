package app.granary.server.queue;

import app.granary.engine.openpgp.Passphrase;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** Passphrases of runs that wait or are under way: in memory alone, gone when the run has ended or Granary has. */
@Component
public class Passphrases {
    private final Map<UUID, Passphrase> byRun = new ConcurrentHashMap<>();

    /**
     * A passphrase as the wire has it.
     *
     * @param text null or empty for none; kept in memory while a run needs it, and nowhere else
     */
    public static Passphrase told(String text) {
        return text == null ? Passphrase.NONE : Passphrase.of(text.toCharArray());
    }

    void keep(UUID run, Passphrase passphrase) {
        if (!passphrase.isNone()) {
            byRun.put(run, passphrase);
        }
    }

    Passphrase of(UUID run) {
        return byRun.getOrDefault(run, Passphrase.NONE);
    }

    void forget(UUID run) {
        byRun.remove(run);
    }
}
