package app.granary.core.destination;

import app.granary.core.machine.Machine;
import java.util.Map;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;

/**
 * What the rules need to know of one destination, at one moment.
 *
 * @param id                 stable identity within the office
 * @param name               as the technician calls it
 * @param place              where it is now, in a few words: {@code "here, USB 3"}
 * @param attached           whether it can be written now
 * @param writable           whether the system lets Granary write to it
 * @param capacityBytes      its whole size
 * @param freeBytes          free now
 * @param promisedBytes      of the free bytes, those that running captures will still take; 0 or more
 * @param ownBytes           written there already by a run of the very image that is weighed, and counted as free for it; 0 or more
 * @param fileSizeLimitBytes longest file its file system allows, empty when there is none that matters
 * @param writeRateBytes     bytes per second it takes over its link, more than 0
 * @param diskSerials        serials of the disks it lies on; empty for a network store
 * @param notes              what a person says of it
 * @param machine            which machine it is in; the office's own for one that is not attached
 * @param partition          number of the partition it is, where it lies on one partition of one disk; empty otherwise
 */
public record Destination(String id, String name, String place, boolean attached, boolean writable, long capacityBytes, long freeBytes,
    long promisedBytes, long ownBytes, OptionalLong fileSizeLimitBytes, long writeRateBytes, Set<String> diskSerials, Notes notes,
    Machine machine, OptionalInt partition) {
    public Destination {
        diskSerials = Set.copyOf(diskSerials);
        partition = partition == null ? OptionalInt.empty() : partition; // as an agent of an earlier version tells it
        if (writeRateBytes <= 0) {
            throw new IllegalArgumentException("writeRateBytes must be more than 0: " + writeRateBytes);
        }
        if (promisedBytes < 0 || ownBytes < 0) {
            throw new IllegalArgumentException("promisedBytes and ownBytes must be 0 or more: " + promisedBytes + ", " + ownBytes);
        }
    }

    /**
     * What a person says of a destination.
     *
     * @param leavesBuilding whether it is ever taken out of the building
     * @param onlyFor        the computers that may use it: by id, each with its name; empty for all
     * @param health         what is known to be wrong with it; empty when nothing is
     * @param sharedLink     a name that destinations on one shared link have in common; empty when it shares none
     */
    public record Notes(boolean leavesBuilding, Map<String, String> onlyFor, String health, String sharedLink) {
        public static final Notes NONE = new Notes(false, Map.of(), "", "");

        public Notes {
            onlyFor = Map.copyOf(onlyFor);
        }
    }

    /** One of which nobody has said anything. */
    public Destination(String id, String name, String place, boolean attached, boolean writable, long capacityBytes, long freeBytes,
        long promisedBytes, OptionalLong fileSizeLimitBytes,
        long writeRateBytes, Set<String> diskSerials) {
        this(id, name, place, attached, writable, capacityBytes, freeBytes, promisedBytes, 0, fileSizeLimitBytes, writeRateBytes,
            diskSerials, Notes.NONE, Machine.OFFICE, OptionalInt.empty());
    }

    /** The same, known to be one partition of its disk. */
    public Destination onPartition(OptionalInt number) {
        return new Destination(id, name, place, attached, writable, capacityBytes, freeBytes, promisedBytes, ownBytes, fileSizeLimitBytes,
            writeRateBytes, diskSerials, notes, machine, number);
    }

    /** Whether it lies on the disk of that serial; never on one without. */
    public boolean liesOn(String serial) {
        return !serial.isBlank() && diskSerials.contains(serial);
    }

    /** The same with so many bytes promised. */
    public Destination promising(long bytes) {
        return new Destination(id, name, place, attached, writable, capacityBytes, freeBytes, bytes, ownBytes, fileSizeLimitBytes,
            writeRateBytes, diskSerials, notes, machine, partition);
    }

    /** The same as an image sees it that is being written there already: so many bytes of it. */
    public Destination holding(long bytesOfTheImage) {
        return new Destination(id, name, place, attached, writable, capacityBytes, freeBytes, promisedBytes, bytesOfTheImage,
            fileSizeLimitBytes, writeRateBytes, diskSerials, notes, machine, partition);
    }

    /** The same with what a person says of it, and where. */
    public Destination described(String where, Notes said) {
        return new Destination(id, name, where, attached, writable, capacityBytes, freeBytes, promisedBytes, ownBytes, fileSizeLimitBytes,
            writeRateBytes, diskSerials, said, machine, partition);
    }

    /** The same as if it were attached and could be written, to tell whether attaching it would help. */
    public Destination asIfAttached() {
        return new Destination(id, name, place, true, true, capacityBytes, freeBytes, promisedBytes, ownBytes, fileSizeLimitBytes,
            writeRateBytes, diskSerials, notes, machine, partition);
    }

    /** The same, in a machine that joined. */
    public Destination in(Machine other) {
        return new Destination(id, name, "in " + other.name(), attached, writable, capacityBytes, freeBytes, promisedBytes, ownBytes,
            fileSizeLimitBytes, writeRateBytes, diskSerials, notes, other, partition);
    }

    /** Free and promised to nobody else, the reserve not taken off; below 0 when more is promised than is free. */
    public long unpromisedBytes() {
        return freeBytes + ownBytes - promisedBytes;
    }

    /** Room for images: what is free, without what is promised and kept in reserve; 0 when it is full. */
    public long usableBytes() {
        return Math.max(0, unpromisedBytes() - reserveBytes());
    }

    /** Kept free on every destination: 2 % of it or 1 GB, the larger. */
    public long reserveBytes() {
        return Math.max(capacityBytes / 50, 1_000_000_000L);
    }
}
