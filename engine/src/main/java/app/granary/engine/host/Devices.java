package app.granary.engine.host;

import app.granary.core.disk.SeenDisk;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import java.io.IOException;
import java.util.List;

/** What is attached to a host, and who each disk is. Nothing here writes. */
public interface Devices {
    /** Computers and their disks, in order of name. */
    List<HostComputer> computers() throws IOException;

    /** The disks that answer now, drives and built-in ones among them; asked often, so nothing on them is read. */
    List<SeenDisk> seen() throws IOException;

    /**
     * What other than Granary uses a disk, so that no image of it can be made now: "mounted at /home"; an empty string when nothing does.
     */
    default String inUse(String diskId) throws IOException {
        return "";
    }

    DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException;

    /** @param watch told as the sample grows; when it asks to stop, what was sampled so far has to do */
    HostEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException;
}
