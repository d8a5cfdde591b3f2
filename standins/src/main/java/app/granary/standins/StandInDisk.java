package app.granary.standins;

import app.granary.core.disk.DiskIdentity;

/**
 * A made-up disk.
 *
 * @param id            stable within the office
 * @param template      name of the template it is filled from
 * @param computer      whose disk it is
 * @param name          which disk of that computer
 * @param model         invented
 * @param serial        invented
 * @param realBytes     length of the raw file
 * @param scale         how many bytes one real byte stands for; 1 is true size
 * @param bus           how it is attached
 * @param readRateBytes scaled bytes per second it is read at, pace included
 */
record StandInDisk(String id, String template, String computer, String name, String model, String serial, long realBytes, long scale,
    String bus,
    long readRateBytes) {

    DiskIdentity identity() {
        return new DiskIdentity(model, serial, realBytes * scale);
    }
}
