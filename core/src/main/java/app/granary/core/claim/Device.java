package app.granary.core.claim;

import app.granary.core.disk.DiskIdentity;

/**
 * A device as claims know it. Two that answer with the same serial are one here: docks and cheap adapters share serials (common practice,
 * no source), and of two devices that cannot be told apart only one is used at a time.
 *
 * @param key  what it is told apart by; compared exactly, and never a path
 * @param name as people know it, for sentences
 */
public record Device(String key, String name) {
    /** By its serial; by {@code otherwise} where it has none. */
    public static Device of(DiskIdentity identity, String otherwise, String name) {
        return identity.serial().isBlank() ? named(otherwise, name) : ofSerial(identity.serial(), name);
    }

    /** @param serial as the device says, not blank */
    public static Device ofSerial(String serial, String name) {
        return new Device("serial " + serial.strip(), name);
    }

    /** One without a serial: a folder on the network, scratch. */
    public static Device named(String id, String name) {
        return new Device("named " + id, name);
    }
}
