package app.granary.server.destination;

import java.time.Instant;
import java.util.List;
import java.util.Map;

/** What lies on destinations. */
public interface Contents {
    /** How many images lie on a destination, and what they take in bytes. */
    record Lying(int count, long bytes) {
    }

    /** @param proof strokes of its tally, 0 to 5 */
    record Content(String computer, String disk, String name, Instant madeAt, long storedBytes, int proof, boolean encrypted) {
    }

    /** By destination, those that hold any. */
    Map<String, Lying> lying();

    /** What lies on one, newest first; lines of a paper log are none of it. */
    List<Content> on(String destinationId);
}
