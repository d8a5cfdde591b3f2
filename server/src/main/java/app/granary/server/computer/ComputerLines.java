package app.granary.server.computer;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/**
 * The list of all computers for the screen, kept until the inventory changes: five hundred computers are read and drawn often, and change
 * seldom.
 */
@Component
class ComputerLines {
    private final Inventory inventory;
    private final AttachedDisks attached;
    private final LastImages images;
    private volatile Kept kept = new Kept(Long.MIN_VALUE, Set.of(), Map.of(), List.of());

    /** The lines, and what they were made from. */
    private record Kept(long revision, Set<String> attached, Map<String, LastImages.LastImage> newest, List<Wire.ComputerLine> lines) {
        boolean from(long otherRevision, Set<String> otherAttached, Map<String, LastImages.LastImage> otherNewest) {
            return revision == otherRevision && attached.equals(otherAttached) && newest.equals(otherNewest);
        }
    }

    ComputerLines(Inventory inventory, AttachedDisks attached, LastImages images) {
        this.inventory = inventory;
        this.attached = attached;
        this.images = images;
    }

    List<Wire.ComputerLine> all() {
        long revision = inventory.revision();
        Set<String> here = attached.ids();
        Map<String, LastImages.LastImage> newest = images.newest();
        Kept now = kept;
        if (!now.from(revision, here, newest)) {
            Map<UUID, List<Disk>> disks = inventory.disksByComputer();
            now = new Kept(revision, here, newest,
                inventory.computers().stream().map(c -> line(c, disks.getOrDefault(c.id(), List.of()), newest)).toList());
            kept = now;
        }
        return now.lines;
    }

    /** @param newest newest image by disk */
    Wire.ComputerLine line(Computer computer, List<Disk> disks, Map<String, LastImages.LastImage> newest) {
        List<Wire.DiskLine> lines = disks.stream().filter(disk -> disk.removedAt() == null)
            .map(disk -> Wire.DiskLine.of(disk, attached.isAttached(disk.id()))).toList();
        LastImages.LastImage image = lines.stream().map(disk -> newest.get(disk.id())).filter(Objects::nonNull)
            .max(Comparator.comparing(LastImages.LastImage::madeAt)).orElse(null);
        return new Wire.ComputerLine(computer.id(), computer.name(), computer.role(), computer.owner(),
            computer.facts().encryption().word(),
            lines.stream().anyMatch(Wire.DiskLine::attached), computer.retiredAt() != null, image == null ? null : image.madeAt(),
            image != null && image.sound(),
            computer.warning(), lines);
    }
}
