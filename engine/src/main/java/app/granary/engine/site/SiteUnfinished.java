package app.granary.engine.site;

import app.granary.core.disk.DiskIdentity;

/**
 * A capture that did not come to its end.
 *
 * @param name        of the image it was to be
 * @param disk        what it was reading
 * @param begunAt     ISO 8601 with offset
 * @param storedBytes what it takes on the destination
 * @param doneShare   0 to 1, how much of the disk it has done
 * @param encrypted   whether carrying it on needs its passphrase
 * @param storage     how it is stored; without its passphrase
 */
public record SiteUnfinished(String name, DiskIdentity disk, String begunAt, long storedBytes, double doneShare, boolean encrypted, Storage storage) {
}
