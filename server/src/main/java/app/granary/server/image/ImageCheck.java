package app.granary.server.image;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import app.granary.core.proof.CheckDepth;
import java.time.Instant;
import java.util.UUID;

/** One check of an image: evidence that is added to, never changed. */
@Entity
class ImageCheck {
    @Id
    private UUID id;
    private UUID imageId;
    private Instant checkedAt;
    private String checkedBy;
    @Enumerated(EnumType.STRING)
    private CheckDepth depth;
    private boolean ok;
    private long readBytes;
    private String problems;

    protected ImageCheck() {
    }

    /** @param problems JSON, a list of problems; {@code "[]"} when it is sound */
    ImageCheck(UUID imageId, Instant checkedAt, String checkedBy, CheckDepth depth, boolean ok, long readBytes, String problems) {
        this.id = UUID.randomUUID();
        this.imageId = imageId;
        this.checkedAt = checkedAt;
        this.checkedBy = checkedBy;
        this.depth = depth;
        this.ok = ok;
        this.readBytes = readBytes;
        this.problems = problems;
    }

    UUID imageId() {
        return imageId;
    }

    Instant checkedAt() {
        return checkedAt;
    }

    String checkedBy() {
        return checkedBy;
    }

    CheckDepth depth() {
        return depth;
    }

    boolean ok() {
        return ok;
    }

    long readBytes() {
        return readBytes;
    }

    String problems() {
        return problems;
    }
}
