package app.granary.standins;

import java.time.Instant;

/** Used bytes of a disk as they were read before Granary was set up here. */
public record PastReading(String diskId, Instant at, long usedBytes) {
}
