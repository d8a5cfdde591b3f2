package app.granary.server.retention;

import app.granary.core.retention.ShelvedImage;
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
    private UUID setId;
    private String reason;
    private LocalDate untilDay;
    private Instant placedAt;
    private String placedBy;
    private Instant endedAt;
    private String endedBy;

    protected ImageHold() {
    }

    /** @param untilDay the last day it stands; null until somebody ends it */
    ImageHold(UUID setId, String reason, LocalDate untilDay, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.setId = setId;
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

    ShelvedImage.Hold hold(ZoneId zone) {
        return new ShelvedImage.Hold(reason, Optional.ofNullable(untilDay).map(day -> day.plusDays(1).atStartOfDay(zone).toInstant()));
    }

    UUID id() {
        return id;
    }

    UUID setId() {
        return setId;
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
