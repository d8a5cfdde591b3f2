package app.granary.core.rescue;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Bytes;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * A file that is to be written onto a stick. An ISO 9660 volume has its descriptor at byte 32 768: {@code CD001} one byte on, name at 40,
 * length in blocks at 80, block size at 128 (ECMA-119, sections 8.4.3 to 8.4.13); one that starts from a stick too has a boot record in its
 * first sector (common practice, no source).
 *
 * @param kind    what it is
 * @param label   its volume name; an empty string without one
 * @param bytes   how much of the file is to be written
 * @param starts  what it can start: {@code "BIOS"}, {@code "UEFI"}, both or none
 * @param refusal why it cannot be written; an empty string when it can
 */
public record BootImage(Kind kind, String label, long bytes, List<String> starts, String refusal) {
    private static final long DESCRIPTOR = 32_768;
    private static final String ESP = "C12A7328-F81F-11D2-BA4B-00A0C93EC93B";

    /** What a file turned out to be. */
    public enum Kind {
        ISO, DISK, NEITHER;

        /** The word on the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    public BootImage {
        starts = List.copyOf(starts);
    }

    public static BootImage read(BlockSource file) throws IOException {
        PartitionTable table = file.sizeBytes() >= 512 ? PartitionTables.read(file) : new PartitionTable.Absent();
        List<String> starts = starts(file, table);
        if (file.sizeBytes() >= DESCRIPTOR + 2048) {
            Bytes descriptor = Bytes.read(file, DESCRIPTOR, 2048);
            if (descriptor.matches(1, "CD001") && descriptor.u8(0) == 1) {
                return iso(file, descriptor, starts);
            }
        }
        if (!table.partitions().isEmpty()) {
            return new BootImage(Kind.DISK, "", file.sizeBytes(), starts, "");
        }
        return new BootImage(Kind.NEITHER, "", file.sizeBytes(), List.of(), file.name()
            + " is neither an ISO nor a disk image: it has no volume descriptor and no partition table. Check the file; a download may "
            + "have failed.");
    }

    private static BootImage iso(BlockSource file, Bytes descriptor, List<String> starts) {
        String label = new String(descriptor.slice(40, 32), StandardCharsets.US_ASCII).strip();
        long bytes = descriptor.u32(80) * descriptor.u16(128);
        if (bytes <= 0 || bytes > file.sizeBytes()) {
            return new BootImage(Kind.ISO, label, file.sizeBytes(), starts, file.name() + " says it is " + bytes + " bytes long, and "
                + file.sizeBytes() + " are there: it is cut short. Fetch it again, and compare its checksum.");
        }
        return new BootImage(Kind.ISO, label, file.sizeBytes(), starts, starts.isEmpty() ? file.name()
            + " has no boot record in its first sector: it starts from a disc, not from a stick. Burn it, or use a file made for sticks."
            : "");
    }

    /** An active partition or boot code starts a BIOS; an EFI system partition, in either kind of table, a UEFI. */
    private static List<String> starts(BlockSource file, PartitionTable table) throws IOException {
        List<String> out = new ArrayList<>();
        if (file.sizeBytes() < 512) {
            return out;
        }
        Bytes first = Bytes.read(file, 0, 512);
        boolean code = first.u16(510) == 0xAA55 && first.u32(0) != 0;
        if (code) {
            out.add("BIOS");
        }
        if (table.partitions().stream().anyMatch(each -> each.type().code().equals(ESP) || each.type().code().equals("EF"))) {
            out.add("UEFI");
        }
        return out;
    }
}
