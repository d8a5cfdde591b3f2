package app.granary.core.disk;

/**
 * One partition of a table.
 *
 * @param number     as the system numbers it: from 1; logical ones from 5; 0 for a file system that starts at the disk's first byte
 * @param startBytes offset of its first byte on the disk
 * @param sizeBytes  its length, more than 0
 * @param type       what the table says it is for
 * @param name       the GPT entry's name, or an empty string
 * @param uuid       the GPT entry's own GUID in upper case, or an empty string
 * @param attributes GPT attribute bits as stored, or for MBR the boot indicator byte
 * @param container  whether it is an MBR extended partition, which holds logical ones and no file system
 */
public record Partition(int number, long startBytes, long sizeBytes, PartitionType type, String name, String uuid, long attributes,
    boolean container) {

    /** End on the disk, exclusive. */
    public long endBytes() {
        return startBytes + sizeBytes;
    }

    /** Word for it in messages: {@code partition 2 ("data")}. */
    public String label() {
        if (number == 0) {
            return "the file system on the whole disk";
        }
        return name.isEmpty() ? "partition " + number : "partition " + number + " (\"" + name + "\")";
    }
}
