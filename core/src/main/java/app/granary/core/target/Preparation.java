package app.granary.core.target;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * How a drive is prepared to take images, or to be a spare.
 *
 * @param scheme      GPT, or MBR where an old BIOS has to start it
 * @param fileSystem  of the store
 * @param name        its label; 1 to 11 letters, digits and hyphens, which every file system takes
 * @param rescueBytes length of a FAT32 partition in front for a rescue system; 0 for none
 */
public record Preparation(Scheme scheme, StoreFileSystem fileSystem, String name, long rescueBytes) {
    private static final long MIB = 1L << 20;
    private static final long LEAST_RESCUE = 64 * MIB;
    private static final long LEAST_STORE = 32 * MIB;
    private static final int GPT_ENTRIES = 128;
    private static final int GPT_ENTRY_BYTES = 128;
    private static final long MBR_SECTORS = 1L << 32;

    /** Of the table. */
    public enum Scheme {
        GPT, MBR
    }

    /** What the store can be made as; which one depends on what has to read it (common practice, no source). */
    public enum StoreFileSystem {
        EXFAT("EBD0A0A2-B9E5-4433-87C0-68B6B72699C7", "07",
            "Every current system reads and writes it; it keeps no journal, so eject it before it is unplugged."),
        NTFS("EBD0A0A2-B9E5-4433-87C0-68B6B72699C7", "07",
            "Keeps a journal; the usual choice where most computers run the system it comes from. Linux writes it too."),
        EXT4("0FC63DAF-8483-4772-8E79-3D69D8477DE4", "83",
            "Keeps a journal; the choice where only Linux and rescue media read the drive. Other systems do not show it.");

        private final String guid;
        private final String mbr;
        private final String why;

        StoreFileSystem(String guid, String mbr, String why) {
            this.guid = guid;
            this.mbr = mbr;
            this.why = why;
        }

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }

        /** How a table names it: a GUID in a GPT, two hexadecimal digits in an MBR. */
        public String type(boolean gpt) {
            return gpt ? guid : mbr;
        }

        /** When to choose it. */
        public String why() {
            return why;
        }
    }

    /** Whether a file system of any kind takes that name. */
    public static boolean nameable(String name) {
        return name.matches("[A-Za-z0-9-]{1,11}");
    }

    /** Why it cannot be done on a disk of that size; empty when it can. */
    public List<String> problems(long diskBytes, int sectorBytes) {
        List<String> out = new ArrayList<>();
        if (!nameable(name)) {
            out.add("The name \"" + name + "\" cannot be written on every kind of drive. Use 1 to 11 letters, digits and hyphens.");
        }
        if (rescueBytes != 0 && (rescueBytes < LEAST_RESCUE || rescueBytes > diskBytes - LEAST_STORE - 2 * MIB)) {
            out.add("A rescue partition needs at least 64 MiB, and must leave room for images.");
        }
        if (scheme == Scheme.MBR && diskBytes / sectorBytes > MBR_SECTORS) {
            out.add(
                "An MBR reaches only the first 2^32 sectors, and this drive has more. Use a GPT, or an older, smaller drive for the old "
                    + "computer.");
        }
        if (diskBytes < LEAST_STORE + 2 * MIB) {
            out.add("It is too small to hold a partition.");
        }
        return out;
    }

    /**
     * The table it gets; the store is the last partition.
     *
     * @param diskGuid and the two others are new GUIDs
     */
    public PartitionTable table(long diskBytes, int sectorBytes, String diskGuid, String rescueGuid, String storeGuid, long signature) {
        long entries = ((long) GPT_ENTRIES * GPT_ENTRY_BYTES + sectorBytes - 1) / sectorBytes;
        long end = (diskBytes / sectorBytes - (scheme == Scheme.GPT ? 1 + entries : 0)) * sectorBytes / MIB * MIB;
        List<Partition> partitions = new ArrayList<>();
        long at = MIB;
        if (rescueBytes > 0) {
            long size = rescueBytes / MIB * MIB;
            partitions.add(partition(1, at, size, "C12A7328-F81F-11D2-BA4B-00A0C93EC93B", "0C", "rescue", rescueGuid, true));
            at += size;
        }
        partitions.add(partition(partitions.size() + 1, at, end - at, fileSystem.guid, fileSystem.mbr, name, storeGuid, false));
        return scheme == Scheme.GPT
            ? new PartitionTable.Gpt(diskGuid, 2 + entries, diskBytes / sectorBytes - 2 - entries, GPT_ENTRIES, partitions, List.of())
            : new PartitionTable.Mbr(signature, partitions);
    }

    private Partition partition(int number, long start, long size, String guid, String mbr, String label, String uuid, boolean active) {
        boolean gpt = scheme == Scheme.GPT;
        return new Partition(number, start, size, PartitionType.of(gpt ? guid : mbr), gpt ? label : "", gpt ? uuid : "",
            !gpt && active ? 0x80 : 0, false);
    }
}
