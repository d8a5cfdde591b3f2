package app.granary.core.disk;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/**
 * A partition's type as the table gives it. Unknown codes are kept and shown as they are.
 *
 * @param code   a GUID in upper case (GPT) or two hexadecimal digits (MBR)
 * @param name   the trade's word for it, or the code when it has none here
 * @param hidden whether the user of the computer never sees it: firmware, reserved, recovery
 */
public record PartitionType(String code, String name, boolean hidden) {
    private static final Map<String, PartitionType> KNOWN = new HashMap<>();

    static {
        // UEFI Specification 2.x table 5.7 and util-linux's list; checked against what sfdisk prints in PartitionTablesTest
        known("C12A7328-F81F-11D2-BA4B-00A0C93EC93B", "EFI System", true);
        known("E3C9E316-0B5C-4DB8-817D-F92DF00215AE", "Microsoft reserved", true);
        known("EBD0A0A2-B9E5-4433-87C0-68B6B72699C7", "Microsoft basic data", false);
        known("DE94BBA4-06D1-4D40-A16A-BFD50179D6AC", "Windows recovery environment", true);
        known("0FC63DAF-8483-4772-8E79-3D69D8477DE4", "Linux filesystem", false);
        known("0657FD6D-A4AB-43C4-84E5-0933C84B4F4F", "Linux swap", true);
        known("E6D6D379-F507-44C2-A23C-238F2A3DF928", "Linux LVM", false);
        known("A19D880F-05FC-4D3B-A006-743F0F84911E", "Linux RAID", false);
        known("21686148-6449-6E6F-744E-656564454649", "BIOS boot", true);
        known("4F68BCE3-E8CD-4DB1-96E7-FBCAF984B709", "Linux root (x86-64)", false);
        known("01", "FAT12", false);
        known("04", "FAT16 <32M", false);
        known("05", "Extended", true);
        known("06", "FAT16", false);
        known("07", "HPFS/NTFS/exFAT", false);
        known("0B", "W95 FAT32", false);
        known("0C", "W95 FAT32 (LBA)", false);
        known("0E", "W95 FAT16 (LBA)", false);
        known("0F", "W95 Ext'd (LBA)", true);
        known("27", "Hidden NTFS WinRE", true);
        known("82", "Linux swap / Solaris", true);
        known("83", "Linux", false);
        known("85", "Linux extended", true);
        known("8E", "Linux LVM", false);
        known("EE", "GPT", true);
        known("EF", "EFI (FAT-12/16/32)", true);
        known("FD", "Linux raid autodetect", false);
    }

    private static void known(String code, String name, boolean hidden) {
        KNOWN.put(code, new PartitionType(code, name, hidden));
    }

    public static PartitionType of(String code) {
        return KNOWN.getOrDefault(code, new PartitionType(code, code, false));
    }

    static PartitionType ofMbr(int code) {
        return of(String.format(Locale.ROOT, "%02X", code));
    }

    /** An MBR entry that only holds the chain of logical partitions. */
    static boolean isExtended(int mbrCode) {
        return mbrCode == 0x05 || mbrCode == 0x0F || mbrCode == 0x85;
    }
}
