package app.granary.server.retention;

import app.granary.core.retention.ShelvedCopy;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Optional;
import java.util.UUID;

/** Why all copies of an image must stay, in the words of who said so. */
@Entity
class ImageHold {
    @Id
    private UUID id;
    private UUID imageId;
    private String reason;
    private LocalDate untilDay;
    private Instant placedAt;
    private String placedBy;
    private Instant endedAt;
    private String endedBy;

    protected ImageHold() {
    }

    /** @param untilDay the last day it stands; null until somebody ends it */
    ImageHold(UUID imageId, String reason, LocalDate untilDay, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.imageId = imageId;
        this.reason = reason;
        this.untilDay = untilDay;
        this.placedAt = at;
        this.placedBy = by;
        this.endedBy = "";
    }

    void end(Instant at, String by) {
        endedAt = at;
        endedBy = by;
    }

    ShelvedCopy.Hold hold(ZoneId zone) {
        return new ShelvedCopy.Hold(reason, Optional.ofNullable(untilDay).map(day -> day.plusDays(1).atStartOfDay(zone).toInstant()));
    }

    UUID id() {
        return id;
    }

    UUID imageId() {
        return imageId;
    }

    String reason() {
        return reason;
    }

    LocalDate untilDay() {
        return untilDay;
    }

    Instant placedAt() {
        return placedAt;
    }

    String placedBy() {
        return placedBy;
    }
}
