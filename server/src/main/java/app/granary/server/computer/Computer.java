package app.granary.server.computer;

import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;
import java.util.UUID;

/** A computer of the office, attached now or only reported. A retired one stays, with its disks and images. */
@Entity
class Computer {
    @Id
    private UUID id;
    @Column(name = "site_id")
    private String hostId;
    private String name;
    private String role;
    private String owner;
    private String maker;
    private String model;
    @Enumerated(EnumType.STRING)
    private Firmware firmware;
    private String bootKey;
    private Boolean secureBoot;
    private String operatingSystem;
    @Enumerated(EnumType.STRING)
    private Encryption encryption;
    @Enumerated(EnumType.STRING)
    private KeyPlace keyPlace;
    private String keyNote;
    private String note;
    private String checks;
    private String source;
    private Instant changedAt;
    private Instant retiredAt;
    private LocalDate filesSavedOn;
    private String filesNote = "";
    @Version
    private long version;

    protected Computer() {
    }

    /** @param source how it came to be known, for people */
    static Computer named(String name, String source, Instant at) {
        Computer computer = new Computer();
        computer.id = UUID.randomUUID();
        computer.note = "";
        computer.checks = "";
        computer.source = source;
        computer.describe(name, "", "", ComputerFacts.UNKNOWN, "", at);
        return computer;
    }

    void describe(String newName, String newRole, String newOwner, ComputerFacts facts, String newNote, Instant at) {
        name = newName;
        role = newRole;
        owner = newOwner;
        maker = facts.maker();
        model = facts.model();
        firmware = facts.firmware();
        bootKey = facts.bootKey();
        secureBoot = facts.secureBoot().orElse(null);
        operatingSystem = facts.operatingSystem();
        encryption = facts.encryption();
        keyPlace = facts.keyPlace();
        keyNote = facts.keyNote();
        note = newNote;
        changedAt = at;
    }

    /** @param lines one for each thing that is looked at when it is back */
    void check(String lines) {
        checks = lines;
    }

    String checks() {
        return checks;
    }

    /** Takes over what a report tells; what it does not tell stays. */
    void take(ComputerReport report, Instant at) {
        maker = report.maker().isEmpty() ? maker : report.maker();
        model = report.model().isEmpty() ? model : report.model();
        firmware = report.firmware() == Firmware.UNKNOWN ? firmware : report.firmware();
        secureBoot = report.secureBoot().orElse(secureBoot);
        operatingSystem = report.operatingSystem().isEmpty() ? operatingSystem : report.operatingSystem();
        changedAt = at;
    }

    void attachTo(String id) {
        hostId = id;
    }

    void retire(Instant at) {
        retiredAt = at;
    }

    void bringBack() {
        retiredAt = null;
    }

    /** @param on when its files were last saved by other means; null when that is not known any more */
    void filesSaved(LocalDate on, String how) {
        filesSavedOn = on;
        filesNote = how;
    }

    /** Null when nobody noted it. */
    LocalDate filesSavedOn() {
        return filesSavedOn;
    }

    String filesNote() {
        return filesNote;
    }

    ComputerFacts facts() {
        return new ComputerFacts(maker, model, firmware, bootKey, Optional.ofNullable(secureBoot), operatingSystem, encryption, keyPlace,
            keyNote);
    }

    /** What is wrong with where its key is kept; an empty string when nothing is. */
    String warning() {
        return KeyPlace.warning(name, encryption, keyPlace, keyNote).orElse("");
    }

    UUID id() {
        return id;
    }

    String hostId() {
        return hostId;
    }

    String name() {
        return name;
    }

    String role() {
        return role;
    }

    String owner() {
        return owner;
    }

    String note() {
        return note;
    }

    String source() {
        return source;
    }

    Instant retiredAt() {
        return retiredAt;
    }

    long version() {
        return version;
    }
}
