package app.granary.server.plan;

import app.granary.server.column.TextList;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/** A plan as it was from one moment on, by whom, and what differed from before. Added, never changed. */
@Entity
class PlanVersion {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private UUID planId;
    private Instant at;
    private String account;
    @Convert(converter = TextList.class)
    private List<String> changes;
    private String document;

    protected PlanVersion() {
    }

    PlanVersion(UUID planId, Instant at, String account, List<String> changes, String document) {
        this.planId = planId;
        this.at = at;
        this.account = account;
        this.changes = List.copyOf(changes);
        this.document = document;
    }

    long id() {
        return id;
    }

    UUID planId() {
        return planId;
    }

    Instant at() {
        return at;
    }

    String account() {
        return account;
    }

    List<String> changes() {
        return changes;
    }

    String document() {
        return document;
    }
}
