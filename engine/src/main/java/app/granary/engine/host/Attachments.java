package app.granary.engine.host;

import app.granary.core.disk.SeenDisk;
import app.granary.engine.source.Sysfs;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** The disks attached to this machine now, each with an id that no other has, and that no path goes into. */
public final class Attachments {
    /** What Granary reads and writes on a machine. */
    public static final Set<String> DISKS = Set.of("disk");

    private final List<Attached> all;

    /** A device, and what it is called in this attachment. */
    record Attached(Lsblk.Device device, SeenDisk seen) {
    }

    private Attachments(List<Attached> all) {
        this.all = List.copyOf(all);
    }

    /** @param types those kinds of devices, as lsblk calls them */
    static Attachments of(List<Lsblk.Device> devices, Set<String> types) {
        List<Attached> first = devices.stream().filter(each -> types.contains(each.type()) && each.sizeBytes() > 0
            && !each.path().startsWith("/dev/zram")).map(Attachments::attached).toList();
        List<SeenDisk> seen = first.stream().map(Attached::seen).toList();
        return new Attachments(
            first.stream().map(each -> each.seen.told(seen) ? new Attached(each.device, lasting(each.seen)) : each).toList());
    }

    private static Attached attached(Lsblk.Device device) {
        Path path = Path.of(device.path());
        String attachment = id(device.model() + "/" + device.serial() + "/" + device.sizeBytes() + "/" + Sysfs.attachment(path));
        return new Attached(device, new SeenDisk(attachment, attachment, device.path(), device.identity(), Sysfs.reached(path)));
    }

    private static SeenDisk lasting(SeenDisk seen) {
        String id = id(seen.identity().model() + "/" + seen.identity().serial() + "/" + seen.identity().sizeBytes());
        return new SeenDisk(id, seen.attachment(), seen.name(), seen.identity(), seen.reached());
    }

    List<Attached> all() {
        return all;
    }

    List<SeenDisk> seen() {
        return all.stream().map(Attached::seen).toList();
    }

    /** Names of the others that answer as this one does. */
    List<String> twins(SeenDisk one) {
        return one.twins(seen()).stream().map(SeenDisk::name).toList();
    }

    /** Of a disk as one that can be overwritten: by what it says where that tells it, else by its attachment. */
    static String targetId(SeenDisk seen) {
        boolean told = !seen.id().equals(seen.attachment());
        return told ? (seen.identity().model() + "/" + seen.identity().serial()).replaceAll("[^A-Za-z0-9]+", "-") : seen.attachment();
    }

    /** For a page's address: letters, digits and hyphens. */
    static String id(String text) {
        return HexFormat.of().toHexDigits(text.hashCode()) + "-"
            + text.replaceAll("[^A-Za-z0-9]+", "-").replaceAll("^-|-$", "").toLowerCase(Locale.ROOT);
    }
}
