package app.granary.server.rescue;

import app.granary.core.rescue.RescueMedium;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.UUID;

/** A person started a computer with a medium, or tried to. */
@Entity
class BootTrial {
    @Id
    private UUID id;
    private UUID stickId;
    private String computer;
    private Instant at;
    private String byAccount;
    private boolean started;
    private int writeCount;
    private String note;

    protected BootTrial() {
    }

    BootTrial(RescueStick stick, String computer, boolean started, String note, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.stickId = stick.id();
        this.computer = computer;
        this.started = started;
        this.writeCount = stick.writes();
        this.note = note;
        this.at = at;
        this.byAccount = by;
    }

    RescueMedium.BootTest test() {
        return new RescueMedium.BootTest(computer, at, started, writeCount);
    }

    void renamed(String newComputer) {
        computer = newComputer;
    }

    UUID stickId() {
        return stickId;
    }
}
