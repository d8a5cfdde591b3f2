package app.granary.engine.host;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.source.Sysfs;
import app.granary.engine.tool.SystemTool;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Block devices as {@code lsblk --json -b} of util-linux prints them. */
final class Lsblk {
    private static final String COLUMNS = "NAME,PATH,TYPE,SIZE,MODEL,SERIAL,WWN,TRAN,RO,MOUNTPOINTS,FSTYPE,FSAVAIL,FSSIZE,LABEL,UUID";
    private static final Duration PATIENCE = Duration.ofSeconds(20);

    /**
     * One device and what lies on it.
     *
     * @param type        {@code "disk"}, {@code "part"}, {@code "loop"}, {@code "rom"} and others
     * @param mountPoints where it is mounted; empty when it is not
     * @param uuid        the file system's own identity; an empty string where there is none
     * @param freeBytes   free on its mounted file system; 0 when not mounted
     */
    record Device(String path, String type, long sizeBytes, String model, String serial, String worldWideName, String bus, boolean readOnly,
        List<String> mountPoints,
        String fileSystem, long freeBytes, long fileSystemBytes, String label, String uuid, List<Device> children) {
        DiskIdentity identity() {
            return new DiskIdentity(model, serial, sizeBytes, worldWideName);
        }

        /** What the disk a destination lies on is known by: its serial, else this attachment of it. */
        String serialOrAttachment() {
            return serial.isEmpty() ? Sysfs.attachment(Path.of(path)) : serial;
        }

        /** Whether it, or anything below it, is the device of that path. */
        boolean has(String path) {
            return tree().stream().anyMatch(each -> each.path().equals(path));
        }

        /** This device and all below it. */
        List<Device> tree() {
            List<Device> out = new ArrayList<>(List.of(this));
            children.forEach(child -> out.addAll(child.tree()));
            return out;
        }
    }

    private Lsblk() {
    }

    /** @throws app.granary.core.fault.FaultException on a system without lsblk: what holds a device cannot be told there */
    static List<Device> devices() throws IOException {
        try {
            return parse(SystemTool.run(List.of("lsblk", "--json", "-b", "-o", COLUMNS), false, PATIENCE, "").text());
        } catch (FaultException absent) {
            throw absent.fault().kind() != Fault.Kind.NOT_RECOGNISED ? absent : Fault.of(Fault.Kind.NOT_RECOGNISED, "lsblk",
                "Granary cannot list this system's disks, since lsblk is missing. Install util-linux, and try again.").asException();
        }
    }

    /** @throws app.granary.core.fault.FaultException for anything that is no list of devices: nothing is taken for "none" */
    static List<Device> parse(String json) throws IOException {
        JsonNode list;
        try {
            list = new ObjectMapper().readTree(json).path("blockdevices");
        } catch (com.fasterxml.jackson.core.JsonProcessingException odd) {
            list = new ObjectMapper().missingNode();
        }
        if (!list.isArray()) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, "lsblk",
                "Granary cannot list this system's disks: the answer of lsblk makes no sense. Try again; if it stays, "
                    + "run lsblk --json by hand.")
                .asException();
        }
        List<Device> out = new ArrayList<>();
        list.forEach(node -> out.add(device(node)));
        return out;
    }

    private static Device device(JsonNode node) {
        List<String> mounts = new ArrayList<>();
        node.path("mountpoints").forEach(point -> {
            if (point.isTextual()) {
                mounts.add(point.asText());
            }
        });
        List<Device> children = new ArrayList<>();
        node.path("children").forEach(child -> children.add(device(child)));
        return new Device(text(node, "path"), text(node, "type"), node.path("size").asLong(), text(node, "model").strip(),
            text(node, "serial").strip(), text(node, "wwn").strip(),
            text(node, "tran"), node.path("ro").asBoolean(), mounts, text(node, "fstype"), node.path("fsavail").asLong(),
            node.path("fssize").asLong(),
            text(node, "label"), text(node, "uuid"), children);
    }

    private static String text(JsonNode node, String field) {
        return node.path(field).isTextual() ? node.path(field).asText() : "";
    }
}
