package app.granary.server.plan;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.time.LocalDate;
import java.util.UUID;

/** A plan as it is kept. A removed one stays, with its versions. */
@Entity(name = "Plan")
class StoredPlan {
    @Id
    private UUID id;
    private String name;
    private String diskId;
    private String document;
    private boolean paused;
    private LocalDate madeOn;
    private Instant removedAt;
    @Version
    private long version;

    protected StoredPlan() {
    }

    /** @param today the day its rhythm is counted from */
    static StoredPlan made(LocalDate today) {
        StoredPlan plan = new StoredPlan();
        plan.id = UUID.randomUUID();
        plan.madeOn = today;
        return plan;
    }

    void take(PlanForm form, String json) {
        name = form.name();
        diskId = form.source().diskId();
        document = json;
    }

    void pause(boolean now) {
        paused = now;
    }

    void remove(Instant at) {
        removedAt = at;
    }

    UUID id() {
        return id;
    }

    String name() {
        return name;
    }

    String diskId() {
        return diskId;
    }

    String document() {
        return document;
    }

    boolean paused() {
        return paused;
    }

    LocalDate madeOn() {
        return madeOn;
    }

    Instant removedAt() {
        return removedAt;
    }

    long version() {
        return version;
    }
}
