package app.granary.server.run;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.RunComparison;
import app.granary.core.estimate.TimeEstimate;
import app.granary.server.estimate.Prospect;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;

/** One piece of long work: a capture, a check, a copy or a repair, waiting, under way or ended. */
@Entity
class Run {
    enum Kind {
        CAPTURE, CHECK, COPY, REPAIR, RESTORE, SPARE, STICK, PREPARE, REHEARSAL;

        /** Whether it overwrites a disk that a person confirmed. */
        boolean overwrites() {
            return this == RESTORE || this == SPARE || this == STICK || this == PREPARE;
        }

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    enum State {
        QUEUED, RUNNING, DONE, STOPPED, FAILED;

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
    private Instant seenAt;
    private long likelyBytes;
    private double lowSeconds;
    private double highSeconds;
    private long storedBytes;
    private String codec;
    private double plainSeconds;
    private String outcome;
    private String document;
    private boolean encrypted;
    private boolean lowPriority;
    private LocalDate night;
    private UUID planId;
    private Instant startsAt;
    private String slowest;
    private double thoughtCapturing;
    private double thoughtChecking;
    private double capturingSeconds;
    private double checkingSeconds;
    private String differs;

    protected Run() {
    }

    private Run(Kind kind, String imageName, Instant begunAt, String begunBy) {
        this.id = UUID.randomUUID();
        this.kind = kind;
        this.state = State.QUEUED;
        this.imageName = imageName;
        this.begunAt = begunAt;
        this.begunBy = begunBy;
        this.codec = "";
        this.outcome = "";
        this.document = "{}";
        this.slowest = "";
        this.differs = "";
    }

    /** Of a disk to a destination; what is thought of its size and time is told when it starts. */
    static Run capture(String computer, String diskId, String disk, String destinationId, String destination, String imageName, Instant at, String by) {
        return new Run(Kind.CAPTURE, imageName, at, by).on(computer, diskId, disk, destinationId, destination);
    }

    /** Of an image: a check, a copy, a repair. */
    static Run ofImage(Kind kind, UUID imageId, Images.Shelved image, Instant at, String by) {
        Run run = new Run(kind, image.name(), at, by).on(image.computer(), image.diskId(), image.disk(), image.destinationId(), image.destination());
        run.imageId = imageId;
        run.likelyBytes = image.storedBytes();
        run.storedBytes = image.storedBytes();
        run.encrypted = image.encrypted();
        return run;
    }

    static Run other(OtherRuns.Order order, Instant at, String by) {
        Run run = new Run(order.kind().run(), order.name(), at, by).on(order.computer(), order.diskId(), order.disk(), order.deviceId(), order.device());
        run.id = order.runId();
        run.imageId = order.imageId().orElse(null);
        run.likelyBytes = order.bytes();
        run.lowSeconds = order.lowSeconds();
        run.highSeconds = order.highSeconds();
        run.encrypted = order.encrypted();
        return run;
    }

    private Run on(String ofComputer, String disksId, String ofDisk, String drivesId, String drive) {
        computer = ofComputer;
        diskId = disksId;
        disk = ofDisk;
        destinationId = drivesId;
        destination = drive;
        return this;
    }

    Run with(String ordered, boolean secret, boolean low) {
        document = ordered;
        encrypted = secret;
        lowPriority = low;
        return this;
    }

    Run inNight(LocalDate date, UUID plan, Instant start) {
        night = date;
        planId = plan;
        startsAt = start;
        return this;
    }

    void begin(String name, Instant at) {
        state = State.RUNNING;
        imageName = name;
        begunAt = at;
        outcome = "";
    }

    void think(Prospect prospect, Destination to) {
        likelyBytes = prospect.size().likelyBytes();
        TimeEstimate time = prospect.timeTo(to);
        lowSeconds = time.lowSeconds();
        highSeconds = time.highSeconds();
        codec = prospect.storage().codec().word();
        plainSeconds = prospect.plainTimeTo(to).likelySeconds();
        slowest = time.slowest();
        double back = time.stages().stream().filter(stage -> stage.name().equals("read back")).mapToDouble(TimeEstimate.Stage::seconds).sum();
        double most = time.stages().stream().filter(stage -> stage.name().equals(time.slowest())).mapToDouble(TimeEstimate.Stage::seconds).sum();
        double factor = prospect.correction(to).factor();
        thoughtCapturing = most * factor;
        thoughtChecking = back * factor;
    }

    void took(double capturing, double checking) {
        capturingSeconds = capturing;
        checkingSeconds = checking;
        if (state == State.DONE && kind == Kind.CAPTURE && thoughtCapturing > 0) {
            differs = new RunComparison(thoughtCapturing, thoughtChecking, capturing, checking, slowest).sentence();
        }
    }

    void startAt(Instant at) {
        startsAt = at;
    }

    void lower(boolean low) {
        lowPriority = low;
    }

    void waitFor(String sentence) {
        outcome = sentence;
    }

    /** A clock that was set back meanwhile is told: its length cannot be trusted then, and what is dated by it is looked at twice. */
    void end(State how, Instant at, String sentence) {
        state = how;
        endedAt = at;
        String told = at.isBefore(begunAt) ? sentence + " The clock was set back while this ran: set it right, and mind the date of what was made." : sentence;
        outcome = told.length() > 2000 ? told.substring(0, 1999) + "…" : told;
    }

    void made(UUID image, long bytes) {
        imageId = image;
        storedBytes = bytes;
    }

    /** The disk it is about, as the journal names it. */
    /** For the journal. */
    Journal.Facts facts() {
        Map<String, Long> figures = new TreeMap<>();
        if (storedBytes > 0) {
            figures.put("storedBytes", storedBytes);
        }
        if (capturingSeconds > 0) {
            figures.put("capturingSeconds", Math.round(capturingSeconds));
        }
        if (checkingSeconds > 0) {
            figures.put("checkingSeconds", Math.round(checkingSeconds));
        }
        return Journal.Facts.of(List.of(diskId, destinationId), figures, imageId == null ? "/runs" : "/images/" + imageId);
    }

    /** A person took note that it failed. */
    void see(Instant at) {
        seenAt = at;
    }

    /** Null while nobody took note. */
    Instant seenAt() {
        return seenAt;
    }

    String subject() {
        return computer + " " + disk;
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

    String document() {
        return document;
    }

    boolean encrypted() {
        return encrypted;
    }

    boolean lowPriority() {
        return lowPriority;
    }

    LocalDate night() {
        return night;
    }

    UUID planId() {
        return planId;
    }

    Instant startsAt() {
        return startsAt;
    }

    double capturingSeconds() {
        return capturingSeconds;
    }

    double checkingSeconds() {
        return checkingSeconds;
    }

    String differs() {
        return differs;
    }
}
