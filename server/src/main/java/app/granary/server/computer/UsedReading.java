package app.granary.server.computer;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;

/** Used bytes of a disk at one moment. Readings are added, never changed. */
@Entity
class UsedReading {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private String diskId;
    private Instant at;
    private long usedBytes;
    private String source;

    protected UsedReading() {
    }

    /** @param source {@code "read"}, {@code "past"} or the format of the report */
    UsedReading(String diskId, Instant at, long usedBytes, String source) {
        this.diskId = diskId;
        this.at = at;
        this.usedBytes = usedBytes;
        this.source = source;
    }

    String diskId() {
        return diskId;
    }

    Instant at() {
        return at;
    }

    long usedBytes() {
        return usedBytes;
    }

    String source() {
        return source;
    }
}
