package app.granary.core.disk;

import app.granary.core.measure.Sizes;

/**
 * What a disk says it is. Never a path or a drive letter: those change between the running system and the rescue environment (common
 * practice, no source). How a disk is reached belongs to one attachment of it and stands in {@link SeenDisk}.
 *
 * @param model         as the device says, or an empty string
 * @param serial        as the device says, or an empty string when it has none or a bridge hides it
 * @param sizeBytes     its whole length
 * @param worldWideName WWN of a SATA or SAS disk, EUI-64 or NGUID of an NVMe namespace, as the system writes it; an empty string where
 *                      there is none
 */
public record DiskIdentity(String model, String serial, long sizeBytes, String worldWideName) {
    /** One without a world wide name. */
    public DiskIdentity(String model, String serial, long sizeBytes) {
        this(model, serial, sizeBytes, "");
    }

    /** The same disk, of another length: for stand-ins, whose bytes are fewer than the size they go by. */
    public DiskIdentity withSize(long bytes) {
        return new DiskIdentity(model, serial, bytes, worldWideName);
    }

    /** Whether both say the same of model, serial and size; a world wide name only counts where both have one. */
    public boolean same(DiskIdentity other) {
        return model.equals(other.model) && serial.equals(other.serial) && sizeBytes == other.sizeBytes && !namedApart(other);
    }

    /**
     * Whether two devices cannot be told apart by what they say. Docks and cheap adapters give several disks one serial, some makes give
     * all their disks one world wide name (common practice, no source): so the same serial is alike whatever model and size say, unless the
     * world wide names differ, and the same world wide name with different serials is not.
     */
    public boolean alike(DiskIdentity other) {
        if (namedApart(other)) {
            return false;
        }
        if (!serial.isBlank() || !other.serial.isBlank()) {
            return serial.strip().equals(other.serial.strip());
        }
        return model.equals(other.model) && sizeBytes == other.sizeBytes;
    }

    /** Model, serial and size (decimal), for people; a model that is not given is left out. */
    public String inWords() {
        return (model.isBlank() ? "" : model + ", ") + (serial.isBlank() ? "no serial" : "serial " + serial) + ", "
            + Sizes.decimal(sizeBytes);
    }

    private boolean namedApart(DiskIdentity other) {
        return !worldWideName.isBlank() && !other.worldWideName.isBlank() && !worldWideName.equals(other.worldWideName);
    }

    /**
     * Whether a disk on record is this one, where both have something of their own to say: a serial, or a world wide name where one is
     * hidden.
     */
    boolean known(DiskIdentity onRecord) {
        if (sizeBytes != onRecord.sizeBytes || namedApart(onRecord)) {
            return false;
        }
        boolean bothSerials = !serial.isBlank() && !onRecord.serial.isBlank();
        return bothSerials ? serial.strip().equals(onRecord.serial.strip())
            : !worldWideName.isBlank() && worldWideName.equals(onRecord.worldWideName);
    }
}
