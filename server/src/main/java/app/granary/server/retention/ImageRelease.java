package app.granary.server.retention;

import app.granary.core.retention.RetentionDecision;
import app.granary.server.image.Images;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Locale;
import java.util.UUID;

/** An image that was released, from the asking to the emptied trash. */
@Entity
class ImageRelease {
    @Id
    private UUID id;
    private UUID copyId;
    private String imageName;
    private String disk;
    private String destinationId;
    private String destination;
    private long bytes;
    private String rule;
    private String why;
    private Instant askedAt;
    private String askedBy;
    @Enumerated(EnumType.STRING)
    private State state;
    private String trouble;
    private Instant movedAt;
    private Instant endedAt;
    @Version
    private long version;

    enum State {
        /** Its drive is not attached; it is moved when it comes. */
        WAITING,
        /** In the trash of its drive. */
        TRASH,
        /** It could not be moved or removed; tried again. */
        FAILED,
        TAKEN_BACK,
        /** Removed for good. */
        EMPTIED;

        String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    protected ImageRelease() {
    }

    static ImageRelease asked(Images.Standings image, RetentionDecision decision, Instant at, String by) {
        ImageRelease release = new ImageRelease();
        release.id = UUID.randomUUID();
        release.copyId = image.id();
        release.imageName = image.name();
        release.disk = image.computer() + " " + image.disk();
        release.destinationId = image.destinationId();
        release.destination = image.destination();
        release.bytes = image.storedBytes();
        release.rule = decision.rule().word();
        release.why = decision.why();
        release.askedAt = at;
        release.askedBy = by;
        release.state = State.WAITING;
        release.trouble = "";
        return release;
    }

    void moved(Instant at) {
        state = State.TRASH;
        trouble = "";
        movedAt = at;
    }

    void failed(String sentence) {
        state = State.FAILED;
        trouble = sentence.length() > 2000 ? sentence.substring(0, 2000) : sentence;
    }

    void end(State how, Instant at) {
        state = how;
        trouble = "";
        endedAt = at;
    }

    UUID id() {
        return id;
    }

    /** By which it lies in the trash. */
    String key() {
        return id.toString();
    }

    UUID copyId() {
        return copyId;
    }

    String imageName() {
        return imageName;
    }

    String disk() {
        return disk;
    }

    String destinationId() {
        return destinationId;
    }

    String destination() {
        return destination;
    }

    long bytes() {
        return bytes;
    }

    String why() {
        return why;
    }

    Instant askedAt() {
        return askedAt;
    }

    String askedBy() {
        return askedBy;
    }

    State state() {
        return state;
    }

    String trouble() {
        return trouble;
    }

    /** Null while it was not moved yet. */
    Instant movedAt() {
        return movedAt;
    }
}
