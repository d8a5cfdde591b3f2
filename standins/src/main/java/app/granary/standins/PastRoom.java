package app.granary.standins;

import java.time.Instant;

/** Free room of a destination as it was before Granary was set up here. */
public record PastRoom(String destinationId, Instant at, long capacityBytes, long freeBytes) {
}
