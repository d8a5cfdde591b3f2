package app.granary.server.destination;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;

/** Free room of a destination at one moment. Readings are added, never changed. */
@Entity
class RoomReading {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private String destinationId;
    private Instant at;
    private long capacityBytes;
    private long freeBytes;

    protected RoomReading() {
    }

    RoomReading(String destinationId, Instant at, long capacityBytes, long freeBytes) {
        this.destinationId = destinationId;
        this.at = at;
        this.capacityBytes = capacityBytes;
        this.freeBytes = freeBytes;
    }

    Instant at() {
        return at;
    }

    long storedBytes() {
        return Math.max(0, capacityBytes - freeBytes);
    }
}
