package app.granary.server.rehearsal;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.UUID;

/** An image restored for practice, and what starting it showed. */
@Entity
class Rehearsal {
    @Id
    private UUID id;
    private UUID imageId;
    private UUID runId;
    private Instant askedAt;
    private String askedBy;
    private Instant endedAt;
    private boolean ok;
    private boolean started;
    private boolean rested;
    private String serial;
    private String outcome;

    protected Rehearsal() {
    }

    Rehearsal(UUID imageId, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.runId = UUID.randomUUID();
        this.imageId = imageId;
        this.askedAt = at;
        this.askedBy = by;
        this.serial = "";
        this.outcome = "";
    }

    /** @param picture whether a picture of its screen was kept */
    void saw(boolean picture, boolean cameToRest, String said) {
        started = picture;
        rested = cameToRest;
        serial = said;
    }

    void end(boolean done, String sentence, Instant at) {
        ok = done;
        outcome = sentence.length() > 2000 ? sentence.substring(0, 1999) + "…" : sentence;
        endedAt = at;
    }

    UUID id() {
        return id;
    }

    UUID imageId() {
        return imageId;
    }

    UUID runId() {
        return runId;
    }

    Instant askedAt() {
        return askedAt;
    }

    String askedBy() {
        return askedBy;
    }

    Instant endedAt() {
        return endedAt;
    }

    boolean ok() {
        return ok;
    }

    boolean started() {
        return started;
    }

    boolean rested() {
        return rested;
    }

    String serial() {
        return serial;
    }

    String outcome() {
        return outcome;
    }
}
