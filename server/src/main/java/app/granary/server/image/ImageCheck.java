package app.granary.server.image;

import jakarta.persistence.Entity;
import jakarta.persistence.EntityListeners;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import app.granary.core.proof.ProofLevel;
import java.time.Instant;
import java.util.UUID;

/** One check of an image: evidence that is added to, never changed. */
@Entity
@EntityListeners(ShelfListener.class)
class ImageCheck {
    @Id
    private UUID id;
    private UUID copyId;
    private Instant checkedAt;
    private String checkedBy;
    @Enumerated(EnumType.STRING)
    private ProofLevel level;
    private boolean ok;
    private long readBytes;
    private String problems;
    private String lost;
    private double seconds;
    private String note;

    protected ImageCheck() {
    }

    /**
     * @param problems JSON, a list of problems; {@code "[]"} when it is sound
     * @param lost     JSON, files that lie on damage; {@code "[]"} without any
     * @param note     what a person looked at who signs that it was booted; otherwise empty
     */
    ImageCheck(UUID copyId, Instant checkedAt, String checkedBy, ProofLevel level, boolean ok, long readBytes, double seconds,
        String problems, String lost, String note) {
        this.id = UUID.randomUUID();
        this.copyId = copyId;
        this.checkedAt = checkedAt;
        this.checkedBy = checkedBy;
        this.level = level;
        this.ok = ok;
        this.readBytes = readBytes;
        this.problems = problems;
        this.lost = lost;
        this.seconds = seconds;
        this.note = note;
    }

    UUID copyId() {
        return copyId;
    }

    Instant checkedAt() {
        return checkedAt;
    }

    String checkedBy() {
        return checkedBy;
    }

    ProofLevel level() {
        return level;
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

    String lost() {
        return lost;
    }

    double seconds() {
        return seconds;
    }

    String note() {
        return note;
    }
}
