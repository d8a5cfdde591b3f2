package app.granary.core.layout;

import app.granary.core.disk.PartitionTable;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.inventory.Firmware;
import app.granary.core.measure.Sizes;
import java.util.ArrayList;
import java.util.List;

/** What a target's firmware, or an MBR's reach, means for what is restored onto it. */
final class FirmwareRemarks {
    private static final String BIOS_BOOT = "21686148-6449-6E6F-744E-656564454649";

    private FirmwareRemarks() {
    }

    static List<String> of(DiskSurvey image, LayoutTarget target, Usable usable) {
        List<String> remarks = new ArrayList<>();
        boolean mbr = image.table() instanceof PartitionTable.Mbr;
        if (mbr && target.firmware() == Firmware.UEFI) {
            remarks.add(
                "The image has an MBR, and this computer's firmware is UEFI: it starts from it only if the firmware can also start BIOS "
                    + "systems and that is switched on. "
                    + "Otherwise the files come back, and the system does not start.");
        }
        boolean gpt = image.table() instanceof PartitionTable.Gpt;
        if (gpt && target.firmware() == Firmware.BIOS
            && image.partitions().stream().noneMatch(each -> each.partition().type().code().equals(BIOS_BOOT))) {
            remarks.add(
                "The image has a GPT without a BIOS boot partition, and this computer's firmware is BIOS: the files come back, and the "
                    + "system does not start from it.");
        }
        if (usable.cutBytes() > 0) {
            remarks.add(
                "An MBR cannot name sectors from 2^32 on: the last " + Sizes.decimal(usable.cutBytes()) + " of the target stay unused.");
        }
        return remarks;
    }
}
