package app.granary.core.image;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;

/**
 * What an image file holds, as far as its start tells.
 *
 * @param sizeBytes  length of the disk in it; empty where the file does not say it before all of it is decoded
 * @param scheme     "gpt", "mbr" or "none"
 * @param tableId    the disk's GUID (GPT) or signature in hexadecimal (MBR), in upper case; an empty string without a table, or for a
 *                   signature of zero
 * @param partitions in order of number; empty without a table
 * @param serial     of the disk, where the image tells it; otherwise an empty string
 * @param remark     what to know of it, as a sentence; usually an empty string
 */
public record DiskInside(OptionalLong sizeBytes, String scheme, String tableId, List<Partition> partitions, String serial, String remark) {
    public DiskInside {
        partitions = List.copyOf(partitions);
    }

    /** The identity a table carries, by which a disk is known again. */
    public static String idOf(PartitionTable table) {
        if (table instanceof PartitionTable.Gpt gpt) {
            return gpt.diskGuid();
        }
        return table instanceof PartitionTable.Mbr mbr && mbr.diskSignature() != 0 ? String.format(Locale.ROOT, "%08X", mbr.diskSignature())
            : "";
    }

    /** First byte behind the last partition; 0 without any. */
    public long endBytes() {
        return partitions.stream().mapToLong(Partition::endBytes).max().orElse(0);
    }

    /** In words: "GPT, 3 partitions". */
    public String words() {
        if (scheme.equals("none")) {
            return "no partition table";
        }
        long count = partitions.stream().filter(p -> !p.container()).count();
        return scheme.toUpperCase(Locale.ROOT) + ", "
            + (count == 0 ? "partitions not told" : count + (count == 1 ? " partition" : " partitions"));
    }
}
