package app.granary.server.journal;

import java.time.ZoneId;

/** Where the office is: days of the journal are its days. */
public interface OfficeZone {
    ZoneId zone();
}
