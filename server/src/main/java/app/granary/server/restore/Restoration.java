package app.granary.server.restore;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.Firmware;
import app.granary.engine.host.Overwriting;
import app.granary.server.column.TextList;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/** An image, or a disk, written onto another disk: asked for, done, looked at, signed. */
@Entity
class Restoration {
    /** What it is for. */
    enum Kind {
        /** A computer comes back. */
        RESTORE,
        /** A bootable spare is made of a disk. */
        SPARE,
        /** One of several alike computers. */
        ROLLOUT
    }

    enum State {
        ASKED, DONE, FAILED
    }

    @Id
    private UUID id;
    @Enumerated(EnumType.STRING)
    private Kind kind;
    private UUID runId;
    private UUID imageId;
    private UUID servedId;
    private String imageName;
    private Instant madeAt;
    private String diskId;
    private String computer;
    private String disk;
    private String targetId;
    private String targetName;
    private String targetModel;
    private String targetSerial;
    private long targetBytes;
    @Convert(converter = TextList.class)
    private List<String> targetHeld;
    private String forComputer;
    @Enumerated(EnumType.STRING)
    private Firmware firmware;
    private UUID rolloutId;
    private String choice;
    @Enumerated(EnumType.STRING)
    private State state;
    private String outcome;
    private Instant askedAt;
    private String askedBy;
    private Instant endedAt;
    @Convert(converter = TextList.class)
    private List<String> checked;
    private String note;
    private Instant signedAt;
    private String signedBy;
    private String place;
    private String flaw = "";
    @Convert(converter = TextList.class)
    private List<String> lost = List.of();
    private Instant retiredAt;
    private int tries;
    @Version
    private long version;

    protected Restoration() {
    }

    Restoration(Kind kind, String imageName, UUID imageId, Instant madeAt, String diskId, String computer, String disk, Instant at,
        String by) {
        this.id = UUID.randomUUID();
        this.runId = UUID.randomUUID();
        this.kind = kind;
        this.imageName = imageName;
        this.imageId = imageId;
        this.madeAt = madeAt;
        this.diskId = diskId;
        this.computer = computer;
        this.disk = disk;
        this.askedAt = at;
        this.askedBy = by;
        this.state = State.ASKED;
        this.outcome = "";
        this.checked = List.of();
        this.note = "";
        this.signedBy = "";
        this.place = "";
        this.firmware = Firmware.UNKNOWN;
        this.forComputer = computer;
        this.tries = 1;
    }

    Restoration onto(Overwriting.Confirmed target, String name, String computerFor, Firmware itsFirmware, String written, UUID rollout) {
        targetId = target.targetId();
        targetName = name;
        targetModel = target.identity().model();
        targetSerial = target.identity().serial();
        targetBytes = target.identity().sizeBytes();
        targetHeld = target.holds();
        forComputer = computerFor;
        firmware = itsFirmware;
        choice = written;
        rolloutId = rollout;
        return this;
    }

    /** @param computer a virtual one, whose disk is written; null for an image or a disk */
    Restoration of(UUID computer) {
        servedId = computer;
        return this;
    }

    /** Of a virtual computer whose disk is written; null for an image or a disk. */
    UUID servedId() {
        return servedId;
    }

    void end(boolean done, String sentence, Instant at) {
        state = done ? State.DONE : State.FAILED;
        outcome = sentence.length() > 2000 ? sentence.substring(0, 1999) + "…" : sentence;
        endedAt = at;
    }

    /** @param now what the target holds by now: what the try before left on it */
    void again(Overwriting.Confirmed now) {
        targetHeld = now.holds();
        runId = UUID.randomUUID();
        tries++;
        state = State.ASKED;
        outcome = "";
        endedAt = null;
    }

    void sign(List<String> whatWasLookedAt, String remark, Instant at, String by) {
        checked = List.copyOf(whatWasLookedAt);
        note = remark;
        signedAt = at;
        signedBy = by;
    }

    void lieAt(String where) {
        place = where;
    }

    void renamed(String newComputer, String newForComputer) {
        computer = newComputer;
        forComputer = newForComputer;
    }

    void retire(Instant at) {
        retiredAt = at;
    }

    Overwriting.Confirmed target() {
        return new Overwriting.Confirmed(targetId, new DiskIdentity(targetModel, targetSerial, targetBytes),
            targetHeld);
    }

    /** How often it was begun; from the second time on it is carried on. */
    int tries() {
        return tries;
    }

    UUID id() {
        return id;
    }

    Kind kind() {
        return kind;
    }

    UUID runId() {
        return runId;
    }

    UUID imageId() {
        return imageId;
    }

    String imageName() {
        return imageName;
    }

    Instant madeAt() {
        return madeAt;
    }

    String diskId() {
        return diskId;
    }

    String computer() {
        return computer;
    }

    String disk() {
        return disk;
    }

    String targetName() {
        return targetName;
    }

    String forComputer() {
        return forComputer;
    }

    Firmware firmware() {
        return firmware;
    }

    UUID rolloutId() {
        return rolloutId;
    }

    String choice() {
        return choice;
    }

    State state() {
        return state;
    }

    String outcome() {
        return outcome;
    }

    Instant askedAt() {
        return askedAt;
    }

    String askedBy() {
        return askedBy;
    }

    Instant endedAt() {
        return endedAt;
    }

    List<String> checked() {
        return checked;
    }

    String note() {
        return note;
    }

    Instant signedAt() {
        return signedAt;
    }

    String signedBy() {
        return signedBy;
    }

    /** @param what what of the disk is not on the target, as a clause */
    void flawed(String what, LostNames files) {
        flaw = what;
        lost = files.told();
    }

    /** An empty string when all of it is there. */
    String flaw() {
        return flaw;
    }

    List<String> lost() {
        return lost;
    }

    String place() {
        return place;
    }

    Instant retiredAt() {
        return retiredAt;
    }
}
