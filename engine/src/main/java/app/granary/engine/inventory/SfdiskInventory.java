package app.granary.engine.inventory;

import app.granary.core.inventory.ComputerReport;
import app.granary.core.inventory.DiskReport;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KnownDisk;
import app.granary.core.inventory.PartitionReport;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** {@code sfdisk --json} of one disk (util-linux, sfdisk(8)): its partition table only, so the disk must be named. */
final class SfdiskInventory {
    private static final Pattern NUMBER = Pattern.compile("(\\d{1,8})$");

    private SfdiskInventory() {
    }

    static InventoryText read(LinedJson json, Optional<KnownDisk> disk) throws IOException {
        if (disk.isEmpty()) {
            throw InventoryText.refused(0,
                "sfdisk tells neither serial nor length of the disk. Choose the disk it is of and read it again");
        }
        LinedJson table = json.object("partitiontable");
        long sector = table.whole("sectorsize").orElse(512);
        List<PartitionReport> partitions = new ArrayList<>();
        for (LinedJson row : table.list("partitions")) {
            Matcher digits = NUMBER.matcher(row.text("node"));
            if (!digits.find()) {
                throw InventoryText.refused(row.line(), "\"" + row.text("node") + "\" gives no partition number");
            }
            int number = Integer.parseInt(digits.group());
            Optional<PartitionReport> before = disk.get().disk().partitions().stream().filter(p -> p.number() == number).findFirst();
            partitions.add(new PartitionReport(number, row.whole("start").orElse(0) * sector, row.whole("size").orElse(0) * sector,
                row.text("type"), row.text("name"),
                before.map(PartitionReport::fileSystem).orElse(""), before.map(PartitionReport::usedBytes).orElse(OptionalLong.empty())));
        }
        DiskReport known = disk.get().disk();
        DiskReport report = new DiskReport(known.identity(), known.name(), known.bus(), (int) Math.min(65_536, sector),
            table.text("label").replace("dos", "mbr"), partitions, table.line());
        return new InventoryText("sfdisk", List.of(new ComputerReport(disk.get().computer(), "", "", Firmware.UNKNOWN, Optional.empty(), "",
            List.of(report), false, table.line())), List.of());
    }
}
