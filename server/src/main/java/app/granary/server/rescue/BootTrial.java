package app.granary.server.rescue;

import app.granary.core.rescue.RescueMedium;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.Map;
import java.util.UUID;

/** A person started a computer with a medium, or tried to. */
@Entity
class BootTrial {
    @Id
    private UUID id;
    private UUID stickId;
    /** Null for one that is not on record. */
    private UUID computerId;
    /** Its name when it was tried. */
    private String computer;
    private Instant at;
    private String byAccount;
    private boolean started;
    private int writeCount;
    private String note;

    protected BootTrial() {
    }

    BootTrial(RescueStick stick, UUID computerId, String computer, boolean started, String note, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.stickId = stick.id();
        this.computerId = computerId;
        this.computer = computer;
        this.started = started;
        this.writeCount = stick.writes();
        this.note = note;
        this.at = at;
        this.byAccount = by;
    }

    /** @param names of computers as they are called now, by id */
    RescueMedium.BootTest test(Map<UUID, String> names) {
        return new RescueMedium.BootTest(computerId == null ? "" : computerId.toString(), names.getOrDefault(computerId, computer), at,
            started, writeCount);
    }

    UUID stickId() {
        return stickId;
    }
}
