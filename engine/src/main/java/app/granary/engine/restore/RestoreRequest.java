package app.granary.engine.restore;

import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.layout.RestoreLayout;
import java.nio.file.Path;
import java.util.Optional;

/**
 * How an image is written back.
 *
 * @param survey       what is in the image
 * @param layout       where it goes; one that fits
 * @param zeroUnused   whether blocks that are not in use are written as zeros; otherwise the target keeps there what it had
 * @param compare      whether everything is read back and compared
 * @param checkFirst   whether the image is proven readable before the first byte is overwritten
 * @param acceptDamage whether damaged chunks are passed over as zeros, and told; otherwise they end it
 * @param log          where it is noted how far it got, and read when {@code carryOn}; empty for a restore that begins anew when it is
 *                     broken off
 * @param carryOn      whether what the log says was done is not done again
 * @param onlyChanges  whether the target is read first, and only what differs is written
 * @param scratch      a folder in which file systems are made smaller; empty where the layout makes none smaller
 */
public record RestoreRequest(DiskSurvey survey, RestoreLayout layout, boolean zeroUnused, boolean compare, boolean checkFirst,
    boolean acceptDamage, Optional<RestoreLog> log, boolean carryOn, boolean onlyChanges,
    Optional<Path> scratch) {
    /** The usual one. */
    public static RestoreRequest of(DiskSurvey survey, RestoreLayout layout) {
        return new RestoreRequest(survey, layout, false, true, true, false, Optional.empty(), false, false, Optional.empty());
    }

    public RestoreRequest comparing(boolean compares) {
        return new RestoreRequest(survey, layout, zeroUnused, compares, checkFirst, acceptDamage, log, carryOn, onlyChanges, scratch);
    }

    public RestoreRequest zeroing(boolean zeros) {
        return new RestoreRequest(survey, layout, zeros, compare, checkFirst, acceptDamage, log, carryOn, onlyChanges, scratch);
    }

    public RestoreRequest acceptingDamage(boolean accepts) {
        return new RestoreRequest(survey, layout, zeroUnused, compare, checkFirst && !accepts, accepts, log, carryOn, onlyChanges, scratch);
    }

    public RestoreRequest logged(RestoreLog file, boolean carriesOn) {
        return new RestoreRequest(survey, layout, zeroUnused, compare, checkFirst && !carriesOn, acceptDamage, Optional.of(file),
            carriesOn, onlyChanges, scratch);
    }

    public RestoreRequest scratching(Path folder) {
        return new RestoreRequest(survey, layout, zeroUnused, compare, checkFirst, acceptDamage, log, carryOn, onlyChanges,
            Optional.of(folder));
    }
}
