package app.granary.server.run;

import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** Room that running captures will still take, per destination, so that it is not given away twice. */
@Component
public class Promises {
    private record Promise(String destinationId, long bytes) {
    }

    private final Map<UUID, Promise> promises = new ConcurrentHashMap<>();

    public long promisedBytes(String destinationId) {
        return promises.values().stream().filter(p -> p.destinationId.equals(destinationId)).mapToLong(Promise::bytes).sum();
    }

    /** @param bytes what the run may still write there, 0 or more */
    void promise(UUID run, String destinationId, long bytes) {
        promises.put(run, new Promise(destinationId, Math.max(0, bytes)));
    }

    void release(UUID run) {
        promises.remove(run);
    }
}
