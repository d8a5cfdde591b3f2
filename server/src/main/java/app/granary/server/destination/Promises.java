package app.granary.server.destination;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Room that is spoken for, per destination, so that it is not given away twice: what running captures will still take, and what tonight's
 * plans will.
 */
@Component
public class Promises {
    /**
     * @param diskId of the disk it is an image of; an empty string for a copy
     * @param whole  what it was promised at the beginning
     * @param bytes  what it may still write
     */
    private record Promise(String destinationId, String diskId, long whole, long bytes) {
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
        return on(destinationId).mapToLong(Promise::bytes).sum();
    }

    /** By running captures but those of these disks: what theirs take is asked for again as if they were yet to begin. */
    public long runningBytes(String destinationId, Set<String> ownDisks) {
        return on(destinationId).filter(p -> !ownDisks.contains(p.diskId)).mapToLong(Promise::bytes).sum();
    }

    /** What running captures of these disks have written already, 0 or more: room that is there for them when they are weighed again. */
    public long ownBytes(String destinationId, Set<String> ownDisks) {
        return on(destinationId).filter(p -> ownDisks.contains(p.diskId)).mapToLong(p -> Math.max(0, p.whole - p.bytes)).sum();
    }

    private Stream<Promise> on(String destinationId) {
        return running.values().stream().filter(p -> p.destinationId.equals(destinationId));
    }

    /**
     * By running captures and by tonight's plans.
     *
     * @param forDiskId a disk whose own place tonight is not counted, since it is this image's; empty to count all
     */
    public long promisedBytes(String destinationId, String forDiskId) {
        long running = forDiskId.isEmpty() ? runningBytes(destinationId) : runningBytes(destinationId, Set.of(forDiskId));
        return running + tonight.stream().filter(t -> t.destinationId.equals(destinationId) && !t.diskId.equals(forDiskId))
            .mapToLong(Tonight::bytes).sum();
    }

    /** Disks an image is being made of. */
    public Set<String> runningDisks() {
        return running.values().stream().map(Promise::diskId).filter(id -> !id.isEmpty()).collect(Collectors.toSet());
    }

    /** Takes the place of what was planned for tonight before. */
    public void planTonight(List<Tonight> planned) {
        tonight = List.copyOf(planned);
    }

    /** @param bytes what the run may still write there, 0 or more */
    public void promise(UUID run, String destinationId, long bytes) {
        promise(run, destinationId, "", bytes, bytes);
    }

    /**
     * @param diskId it is an image of
     * @param whole  what it was promised at the beginning
     * @param bytes  what it may still write there, 0 or more
     */
    public void promise(UUID run, String destinationId, String diskId, long whole, long bytes) {
        running.put(run, new Promise(destinationId, diskId, Math.max(0, whole), Math.max(0, bytes)));
    }

    public void release(UUID run) {
        running.remove(run);
    }
}
