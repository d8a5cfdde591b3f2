package app.granary.server.run;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.TimeEstimate;
import app.granary.server.estimate.Prospects;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.Locale;
import java.util.UUID;

/** One piece of long work: a capture or a check, under way or ended. */
@Entity
class Run {
    enum Kind {
        CAPTURE, CHECK;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    enum State {
        RUNNING, DONE, STOPPED, FAILED;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    @Id
    private UUID id;
    @Enumerated(EnumType.STRING)
    private Kind kind;
    @Enumerated(EnumType.STRING)
    private State state;
    private String computer;
    private String diskId;
    private String disk;
    private String destinationId;
    private String destination;
    private String imageName;
    private UUID imageId;
    private Instant begunAt;
    private String begunBy;
    private Instant endedAt;
    private long likelyBytes;
    private double lowSeconds;
    private double highSeconds;
    private long storedBytes;
    private String codec;
    private double plainSeconds;
    private String outcome;

    protected Run() {
    }

    private Run(Kind kind, String imageName, Instant begunAt, String begunBy) {
        this.id = UUID.randomUUID();
        this.kind = kind;
        this.state = State.RUNNING;
        this.imageName = imageName;
        this.begunAt = begunAt;
        this.begunBy = begunBy;
        this.codec = "";
        this.outcome = "";
    }

    static Run capture(Prospects.Prospect prospect, Destination to, String imageName, Instant at, String by) {
        Run run = new Run(Kind.CAPTURE, imageName, at, by);
        run.computer = prospect.source().computer().name();
        run.diskId = prospect.source().disk().id();
        run.disk = prospect.source().disk().name();
        run.destinationId = to.id();
        run.destination = to.name();
        run.likelyBytes = prospect.size().likelyBytes();
        TimeEstimate time = prospect.timeTo(to);
        run.lowSeconds = time.lowSeconds();
        run.highSeconds = time.highSeconds();
        run.codec = prospect.storage().codec().word();
        run.plainSeconds = prospect.plainTimeTo(to).likelySeconds();
        return run;
    }

    static Run check(UUID imageId, String computer, String diskId, String disk, String destinationId, String destination, String imageName, long storedBytes, Instant at,
                     String by) {
        Run run = new Run(Kind.CHECK, imageName, at, by);
        run.imageId = imageId;
        run.computer = computer;
        run.diskId = diskId;
        run.disk = disk;
        run.destinationId = destinationId;
        run.destination = destination;
        run.likelyBytes = storedBytes;
        run.storedBytes = storedBytes;
        return run;
    }

    void end(State how, Instant at, String sentence) {
        state = how;
        endedAt = at;
        outcome = sentence.length() > 2000 ? sentence.substring(0, 1999) + "…" : sentence;
    }

    void made(UUID image, long bytes) {
        imageId = image;
        storedBytes = bytes;
    }

    UUID id() {
        return id;
    }

    Kind kind() {
        return kind;
    }

    State state() {
        return state;
    }

    String computer() {
        return computer;
    }

    String diskId() {
        return diskId;
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

    String imageName() {
        return imageName;
    }

    UUID imageId() {
        return imageId;
    }

    Instant begunAt() {
        return begunAt;
    }

    String begunBy() {
        return begunBy;
    }

    Instant endedAt() {
        return endedAt;
    }

    long likelyBytes() {
        return likelyBytes;
    }

    double lowSeconds() {
        return lowSeconds;
    }

    double highSeconds() {
        return highSeconds;
    }

    long storedBytes() {
        return storedBytes;
    }

    double plainSeconds() {
        return plainSeconds;
    }

    String outcome() {
        return outcome;
    }
}
