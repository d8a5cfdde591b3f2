package app.granary.core.destination;

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
 * @param promisedBytes      of the free bytes, those that running captures will still take
 * @param fileSizeLimitBytes longest file its file system allows, empty when there is none that matters
 * @param writeRateBytes     bytes per second it takes over its link, more than 0
 * @param diskSerials        serials of the disks it lies on; empty for a network store
 */
public record Destination(String id, String name, String place, boolean attached, boolean writable, long capacityBytes, long freeBytes,
                          long promisedBytes, OptionalLong fileSizeLimitBytes, long writeRateBytes, Set<String> diskSerials) {
    public Destination {
        diskSerials = Set.copyOf(diskSerials);
        if (writeRateBytes <= 0) {
            throw new IllegalArgumentException("writeRateBytes must be more than 0: " + writeRateBytes);
        }
    }

    /** Kept free on every destination: 2 % of it or 1 GB, the larger. */
    public long reserveBytes() {
        return Math.max(capacityBytes / 50, 1_000_000_000L);
    }
}
