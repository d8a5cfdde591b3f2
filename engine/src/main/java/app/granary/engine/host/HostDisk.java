package app.granary.engine.host;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SeenDisk;

/**
 * A disk at hand.
 *
 * @param id            unique among those at hand; lasting where the disk can be told by what it says, else of this attachment
 * @param attachment    of this attachment of it: another after it was pulled and plugged in again
 * @param name          which disk of the computer, in words
 * @param identity      what it says it is
 * @param bus           how it is attached, or an empty string
 * @param reached       the connector it is reached by, or an empty string
 * @param readRateBytes bytes per second it can be read at, more than 0: from the link table, not measured
 */
public record HostDisk(String id, String attachment, String name, DiskIdentity identity, String bus, String reached, long readRateBytes) {
    /** One that is always the same, and cannot be mistaken: a file, a made-up disk. */
    public static HostDisk lasting(String id, String name, DiskIdentity identity, String bus, long readRateBytes) {
        return new HostDisk(id, id, name, identity, bus, "", readRateBytes);
    }

    /** The same, under the id it has on record. */
    public HostDisk as(String idOnRecord) {
        return new HostDisk(idOnRecord, attachment, name, identity, bus, reached, readRateBytes);
    }

    /** As it is looked up among the disks on record. */
    public SeenDisk seen() {
        return new SeenDisk(id, attachment, name, identity, reached);
    }
}
