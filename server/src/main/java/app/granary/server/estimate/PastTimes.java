package app.granary.server.estimate;

import app.granary.core.estimate.RunCorrection;
import java.util.Map;

/** How long earlier captures really took. */
public interface PastTimes {
    /**
     * By destination, those with any: from runs of the same disk there with the same codec; without one, from those of other disks there.
     */
    Map<String, RunCorrection> corrections(String diskId, String codec);
}
