package app.granary.core.disk;

/**
 * What a disk is known by: never by a path or a drive letter, since those change between the running system and the rescue
 * environment (common practice, no source).
 *
 * @param model     as the device says, or an empty string
 * @param serial    as the device says, or an empty string when it has none (a raw image file)
 * @param sizeBytes its whole length
 */
public record DiskIdentity(String model, String serial, long sizeBytes) {
    /** The same disk, of another length: for stand-ins, whose bytes are fewer than the size they go by. */
    public DiskIdentity withSize(long bytes) {
        return new DiskIdentity(model, serial, bytes);
    }
}
