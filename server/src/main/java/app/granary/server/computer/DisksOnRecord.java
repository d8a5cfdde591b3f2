package app.granary.server.computer;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.image.Owner;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The disks of computers in use, for those who plan with them. */
@Service
public class DisksOnRecord {
    private final DiskRepository disks;
    private final AttachedDisks attached;
    private final Inventory inventory;
    private volatile Kept kept = new Kept(-1, Set.of(), List.of());

    DisksOnRecord(DiskRepository disks, AttachedDisks attached, Inventory inventory) {
        this.disks = disks;
        this.attached = attached;
        this.inventory = inventory;
    }

    /** The list, and what it was made from. */
    private record Kept(long revision, Set<String> attached, List<DiskOnRecord> disks) {
    }

    /**
     * A disk as it was last read or reported.
     *
     * @param name        which disk of the computer
     * @param scheme      "gpt", "mbr" or "none"
     * @param toReadBytes what a capture would read, 0 when not known
     * @param encrypted   whether its volumes are
     * @param bootKey     key that opens the computer's boot menu, or an empty string
     * @param partitions  numbers of its partitions that hold data
     * @param controller  whether its computer drives a machine
     */
    public record DiskOnRecord(String id, UUID computerId, String computer, String role, String owner, String name, DiskIdentity identity,
        String scheme, String bus, long toReadBytes, boolean encrypted,
        String bootKey, Firmware firmware, boolean attached, List<Integer> partitions) {
        public boolean controller() {
            return role.toLowerCase(java.util.Locale.ROOT).contains("controller");
        }
    }

    /** Reads the disks at hand before anything is told of them. */
    public void readAttached() {
        attached.readNow();
    }

    /** Used bytes of a disk as they were read before Granary was set up here. */
    public record UsedBefore(String diskId, Instant at, long usedBytes) {
    }

    /** Whether no more is on record of disks than what was read today. */
    public boolean hasNoPast() {
        return inventory.hasNoPast();
    }

    public void addPast(List<UsedBefore> past) {
        inventory.addPast(past);
    }

    /** In order of computer and place. */
    @Transactional(readOnly = true)
    public List<DiskOnRecord> all() {
        long revision = inventory.revision();
        Set<String> here = attached.ids();
        Kept now = kept;
        if (now.revision != revision || !now.attached.equals(here)) {
            now = new Kept(revision, here, read());
            kept = now;
        }
        return now.disks;
    }

    private List<DiskOnRecord> read() {
        return disks.all().stream().filter(disk -> disk.removedAt() == null && disk.computer().retiredAt() == null)
            .sorted(Comparator.comparing((Disk disk) -> disk.computer().name()).thenComparing(Disk::place)).map(this::record).toList();
    }

    @Transactional(readOnly = true)
    public Optional<DiskOnRecord> find(String id) {
        return disks.findById(id).filter(disk -> disk.computer().retiredAt() == null).map(this::record);
    }

    /** What an image made elsewhere is known again by: the disks of computers in use. */
    @Transactional(readOnly = true)
    public List<Owner.Candidate> candidates() {
        return disks.all().stream().filter(disk -> disk.computer().retiredAt() == null && disk.removedAt() == null)
            .map(disk -> new Owner.Candidate(disk.id(), disk.computer().name(), disk.identity().serial(),
                disk.tableId(),
                disk.partitions().stream().filter(p -> !p.container()).map(DiskPartition::report)
                    .map(p -> new Owner.Place(p.startBytes(), p.sizeBytes())).toList()))
            .toList();
    }

    private DiskOnRecord record(Disk disk) {
        Computer computer = disk.computer();
        return new DiskOnRecord(disk.id(), computer.id(), computer.name(), computer.role(), computer.owner(), disk.name(), disk.identity(),
            disk.scheme(), disk.bus(), disk.toReadBytes(),
            computer.facts().encryption() == Encryption.VOLUMES, computer.facts().bootKey(), computer.facts().firmware(),
            attached.isAttached(disk.id()),
            disk.partitions().stream().filter(p -> !p.container()).map(p -> p.report().number()).toList());
    }
}
