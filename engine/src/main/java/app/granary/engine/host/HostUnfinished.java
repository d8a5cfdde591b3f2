package app.granary.engine.host;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import java.util.OptionalLong;

/**
 * A capture, or a copy, that did not come to its end.
 *
 * @param name        of the image it was to be
 * @param disk        what it was reading
 * @param begunAt     ISO 8601 with offset; an empty string for what cannot be carried on
 * @param storedBytes what it takes on the destination
 * @param doneShare   0 to 1, how much of the disk it has done
 * @param encrypted   whether carrying it on needs its passphrase
 * @param storage     how it is stored; without its passphrase
 * @param carryable   whether it can be carried on; else it can be discarded, and begun anew
 */
public record HostUnfinished(String name, DiskIdentity disk, String begunAt, long storedBytes, double doneShare, boolean encrypted,
    Storage storage, boolean carryable) {
    /** What cannot be carried on, only discarded: of it only its name is known. */
    public static HostUnfinished remains(String name, long storedBytes) {
        return new HostUnfinished(name, new DiskIdentity("", "", 0), "", storedBytes, 0, false,
            new Storage(Codec.NONE, 0, OptionalLong.empty(), SurveyChoice.USED), false);
    }

}
