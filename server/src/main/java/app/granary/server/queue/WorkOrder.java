package app.granary.server.queue;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.util.UUID;

/** What a run was asked to do, as JSON of a versioned form. */
@Entity
class WorkOrder {
    @Id
    private UUID runId;
    private int version;
    private String document;

    protected WorkOrder() {
    }

    WorkOrder(UUID runId, int version, String document) {
        this.runId = runId;
        this.version = version;
        this.document = document;
    }

    String document() {
        return document;
    }
}
