package app.granary.engine.site;

import app.granary.core.disk.DiskIdentity;

/**
 * A disk at hand.
 *
 * @param id             stable within the site: of model, serial and size, not of a path
 * @param name           which disk of the computer, in words
 * @param identity       model, serial, size
 * @param bus            how it is attached, or an empty string
 * @param readRateBytes  bytes per second it can be read at, more than 0: from the link table, not measured
 */
public record SiteDisk(String id, String name, DiskIdentity identity, String bus, long readRateBytes) {
}
