package app.granary.server.computer;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.DiskReport;
import app.granary.server.column.TextList;
import jakarta.persistence.CascadeType;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.FetchType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.OneToMany;
import jakarta.persistence.OrderBy;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** A disk in a computer, as it was last read or reported. A swapped one stays, marked as removed, since its images do. */
@Entity
class Disk {
    @Id
    private String id;
    @ManyToOne(fetch = FetchType.LAZY)
    @JoinColumn(name = "computer_id")
    private Computer computer;
    private int place;
    private String name;
    private String model;
    private String serial;
    private long sizeBytes;
    private String worldWideName = "";
    private int sectorBytes;
    private String bus;
    private String scheme;
    private long toReadBytes;
    @Convert(converter = TextList.class)
    private List<String> remarks;
    private String refusal;
    private Instant seenAt;
    private Instant removedAt;
    private String tableId = "";
    @OneToMany(mappedBy = "disk", cascade = CascadeType.ALL, orphanRemoval = true)
    @OrderBy("number")
    private List<DiskPartition> partitions = new ArrayList<>();

    protected Disk() {
    }

    static Disk of(String id) {
        Disk disk = new Disk();
        disk.id = id;
        return disk;
    }

    /** @param where the disk's number in its computer, from 1 */
    void describe(Computer in, int where, String newName, DiskIdentity identity, String newBus, Instant at) {
        computer = in;
        place = where;
        name = newName;
        model = identity.model();
        serial = identity.serial();
        sizeBytes = identity.sizeBytes();
        worldWideName = identity.worldWideName();
        bus = newBus;
        seenAt = at;
        removedAt = null;
    }

    /**
     * Seen attached to another computer than its own, as in a dock: it stays its own computer's disk, under the name it has there. What a
     * bridge hides or says otherwise does not replace what the disk said itself.
     */
    void seenElsewhere(DiskIdentity identity, Instant at) {
        serial = serial.isEmpty() ? identity.serial() : serial;
        worldWideName = worldWideName.isEmpty() ? identity.worldWideName() : worldWideName;
        seenAt = at;
        removedAt = null;
    }

    void layout(int sector, String newScheme, long toRead, List<String> newRemarks, List<DiskPartition> found) {
        sectorBytes = sector;
        scheme = newScheme;
        toReadBytes = toRead;
        remarks = List.copyOf(newRemarks);
        refusal = "";
        partitions.clear();
        partitions.addAll(found);
    }

    void refuse(String why) {
        layout(512, "none", 0, List.of(), List.of());
        refusal = why;
    }

    /** @param id what the disk's own table says it is, as {@link app.granary.core.image.DiskInside#idOf} gives it */
    void knownBy(String id) {
        tableId = id;
    }

    String tableId() {
        return tableId;
    }

    void remove(Instant at) {
        removedAt = at;
    }

    DiskIdentity identity() {
        return new DiskIdentity(model, serial, sizeBytes, worldWideName);
    }

    DiskReport report() {
        return new DiskReport(identity(), name, bus, sectorBytes, scheme,
            partitions.stream().filter(p -> !p.container()).map(DiskPartition::report).toList(), 0);
    }

    String id() {
        return id;
    }

    Computer computer() {
        return computer;
    }

    int place() {
        return place;
    }

    String name() {
        return name;
    }

    int sectorBytes() {
        return sectorBytes;
    }

    String bus() {
        return bus;
    }

    String scheme() {
        return scheme;
    }

    long toReadBytes() {
        return toReadBytes;
    }

    List<String> remarks() {
        return remarks;
    }

    String refusal() {
        return refusal;
    }

    Instant seenAt() {
        return seenAt;
    }

    Instant removedAt() {
        return removedAt;
    }

    List<DiskPartition> partitions() {
        return partitions;
    }
}
