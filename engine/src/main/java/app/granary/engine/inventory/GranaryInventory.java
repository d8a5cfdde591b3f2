package app.granary.engine.inventory;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.DiskReport;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.PartitionReport;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/** Granary's own report, described by {@code inventory.schema.json}: what a few lines of any script can print. */
final class GranaryInventory {
    private static final Set<String> TOP = Set.of("format", "version", "computers", "$schema");
    private static final Set<String> COMPUTER = Set.of("name", "maker", "model", "firmware", "secureBoot", "operatingSystem", "disks");
    private static final Set<String> DISK = Set.of("name", "model", "serial", "sizeBytes", "sectorBytes", "bus", "scheme", "partitions");
    private static final Set<String> PARTITION = Set.of("number", "startBytes", "sizeBytes", "type", "name", "fileSystem", "usedBytes");

    private GranaryInventory() {
    }

    static InventoryText read(LinedJson json) throws IOException {
        if (json.whole("version").orElse(0) != 1) {
            throw InventoryText.refused(json.line(), "its version is " + json.text("version") + ", and this Granary reads 1");
        }
        List<String> notes = new ArrayList<>(json.strangers(TOP));
        List<ComputerReport> computers = new ArrayList<>();
        for (LinedJson each : json.list("computers")) {
            notes.addAll(each.strangers(COMPUTER));
            if (each.text("name").isEmpty()) {
                throw InventoryText.refused(each.line(), "a computer has no name");
            }
            List<DiskReport> disks = new ArrayList<>();
            for (LinedJson disk : each.list("disks")) {
                disks.add(disk(disk, notes));
            }
            computers.add(new ComputerReport(each.text("name"), each.text("maker"), each.text("model"),
                Firmware.parse(each.text("firmware")), yesNo(each, "secureBoot"),
                each.text("operatingSystem"), disks, true, each.line()));
        }
        return new InventoryText("granary", computers, notes);
    }

    private static Optional<Boolean> yesNo(LinedJson from, String field) throws IOException {
        String text = from.text(field);
        if (!text.isEmpty() && !text.equals("true") && !text.equals("false")) {
            throw InventoryText.refused(from.line(), "\"" + field + "\" should be true or false");
        }
        return text.isEmpty() ? Optional.empty() : Optional.of(text.equals("true"));
    }

    private static DiskReport disk(LinedJson disk, List<String> notes) throws IOException {
        notes.addAll(disk.strangers(DISK));
        long size = required(disk, "sizeBytes", "a disk");
        List<PartitionReport> partitions = new ArrayList<>();
        for (LinedJson row : disk.list("partitions")) {
            notes.addAll(row.strangers(PARTITION));
            long start = row.whole("startBytes").orElse(0);
            long bytes = required(row, "sizeBytes", "a partition");
            if (bytes > size || start > size - bytes) {
                throw InventoryText.refused(row.line(), "a partition reaches past the end of its disk (" + size + " bytes)");
            }
            OptionalLong used = row.whole("usedBytes");
            if (used.isPresent() && used.getAsLong() > bytes) {
                throw InventoryText.refused(row.line(), "a partition of " + bytes + " bytes cannot have " + used.getAsLong() + " used");
            }
            partitions.add(new PartitionReport((int) Math.min(4096, row.whole("number").orElse(0)), start, bytes, row.text("type"),
                row.text("name"), row.text("fileSystem"), used));
        }
        return new DiskReport(new DiskIdentity(disk.text("model"), disk.text("serial"), size), disk.text("name"), disk.text("bus"),
            (int) Math.min(65_536, disk.whole("sectorBytes").orElse(512)), disk.text("scheme"), partitions, disk.line());
    }

    private static long required(LinedJson from, String field, String what) throws IOException {
        OptionalLong value = from.whole(field);
        if (value.orElse(0) == 0) {
            throw InventoryText.refused(from.line(), what + " needs \"" + field + "\", more than 0");
        }
        return value.getAsLong();
    }
}
