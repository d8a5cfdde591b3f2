package app.granary.standins;

import app.granary.engine.host.Links;

/**
 * A made-up destination.
 *
 * @param id             stable within the office, also its folder's name
 * @param place          where it is
 * @param attached       whether it can be written now
 * @param capacityBytes  its size
 * @param occupiedBytes  what already lies there besides images made here
 * @param fileLimitBytes longest file, 0 when there is no limit that matters
 * @param writeRateBytes scaled bytes per second over its link, pace included
 * @param diskSerial     serial of the disk it lies on
 */
record StandInDrive(String id, String name, String place, boolean attached, long capacityBytes, long occupiedBytes, long fileLimitBytes,
    long writeRateBytes,
    String diskSerial) {

    /** One of another machine, over the office's network. */
    static StandInDrive lent(String id) {
        return new StandInDrive(id, "the office", "network", true, 0, 0, 0, Links.GIGABIT * MarrowbySurveyOffice.PACE, "");
    }
}
