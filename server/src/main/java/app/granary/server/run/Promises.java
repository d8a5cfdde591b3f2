package app.granary.server.run;

import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** Room that is spoken for, per destination, so that it is not given away twice: what running captures will still take, and what tonight's plans will. */
@Component
public class Promises {
    private record Promise(String destinationId, long bytes) {
    }

    /**
     * What a plan of tonight will take.
     *
     * @param bytes at most, 0 or more
     */
    public record Tonight(String destinationId, String diskId, long bytes) {
    }

    private final Map<UUID, Promise> running = new ConcurrentHashMap<>();
    private volatile List<Tonight> tonight = List.of();

    /** By running captures alone. */
    public long runningBytes(String destinationId) {
        return running.values().stream().filter(p -> p.destinationId.equals(destinationId)).mapToLong(Promise::bytes).sum();
    }

    /**
     * By running captures and by tonight's plans.
     *
     * @param forDiskId a disk whose own place tonight is not counted, since it is this image's; empty to count all
     */
    public long promisedBytes(String destinationId, String forDiskId) {
        return runningBytes(destinationId) + tonight.stream().filter(t -> t.destinationId.equals(destinationId) && !t.diskId.equals(forDiskId)).mapToLong(Tonight::bytes).sum();
    }

    /** Takes the place of what was planned for tonight before. */
    public void planTonight(List<Tonight> planned) {
        tonight = List.copyOf(planned);
    }

    /** @param bytes what the run may still write there, 0 or more */
    void promise(UUID run, String destinationId, long bytes) {
        running.put(run, new Promise(destinationId, Math.max(0, bytes)));
    }

    void release(UUID run) {
        running.remove(run);
    }
}
