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
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * {@code lsblk --json -b -O} of one computer (util-linux, lsblk(8)). Starts are counted in sectors of 512 bytes whatever the disk's own
 * sector (kernel documentation, "queue sysfs files"); older versions print numbers as texts and have no start.
 */
final class LsblkInventory {
    private static final Pattern NUMBER = Pattern.compile("(\\d+)$");
    private static final int START_SECTOR = 512;

    private LsblkInventory() {
    }

    static InventoryText read(LinedJson json, String computer) throws IOException {
        if (computer.isBlank()) {
            throw InventoryText.refused(0, "lsblk does not say which computer it ran on. Fill in the computer's name and read it again");
        }
        List<String> notes = new ArrayList<>();
        List<DiskReport> disks = new ArrayList<>();
        for (LinedJson device : json.list("blockdevices")) {
            String name = device.text("name");
            if (!device.text("type").equals("disk") || name.startsWith("zram") || device.whole("size").orElse(0) == 0) {
                notes.add("Line " + device.line() + ": " + name + " is no disk that holds anything and was passed over.");
                continue;
            }
            disks.add(disk(device));
        }
        return new InventoryText("lsblk",
            List.of(new ComputerReport(computer.strip(), "", "", Firmware.UNKNOWN, Optional.empty(), "", disks, true, json.line())), notes);
    }

    private static DiskReport disk(LinedJson device) throws IOException {
        List<PartitionReport> partitions = new ArrayList<>();
        for (LinedJson child : device.list("children")) {
            if (child.text("type").equals("part")) {
                partitions.add(partition(child));
            }
        }
        if (partitions.isEmpty() && !device.text("fstype").isEmpty()) {
            partitions.add(new PartitionReport(0, 0, device.whole("size").orElseThrow(), "", device.text("label"), device.text("fstype"),
                device.whole("fsused")));
        }
        return new DiskReport(new DiskIdentity(device.text("model"), device.text("serial"), device.whole("size").orElseThrow(),
            device.text("wwn")), device.text("name"), device.text("tran"),
            (int) Math.min(65_536, device.whole("log-sec").orElse(512)), device.text("pttype").replace("dos", "mbr"), partitions,
            device.line());
    }

    private static PartitionReport partition(LinedJson child) throws IOException {
        OptionalLong told = child.whole("partn");
        Matcher digits = NUMBER.matcher(child.text("name"));
        int number = (int) Math.min(Integer.MAX_VALUE,
            told.orElse(digits.find() && digits.group().length() < 9 ? Long.parseLong(digits.group()) : 0));
        if (number == 0) {
            throw InventoryText.refused(child.line(), "\"" + child.text("name") + "\" gives no partition number");
        }
        String name = child.text("partlabel").isEmpty() ? child.text("label") : child.text("partlabel");
        return new PartitionReport(number, child.whole("start").orElse(0) * START_SECTOR, child.whole("size").orElse(0),
            child.text("parttype").toUpperCase(java.util.Locale.ROOT),
            name, child.text("fstype"), child.whole("fsused"));
    }
}
