package app.granary.server.computer;

import app.granary.core.disk.SeenDisk;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.host.Devices;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import java.io.IOException;
import java.util.List;

/** A host's disks under the ids of the office's records. */
record NamedDevices(Devices devices, DisksAtHand disks) implements Devices {
    @Override
    public List<HostComputer> computers() throws IOException {
        return disks.look().computers();
    }

    @Override
    public List<SeenDisk> seen() throws IOException {
        return devices.seen();
    }

    @Override
    public String inUse(String diskId) throws IOException {
        return devices.inUse(disks.hostId(diskId));
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        return devices.survey(disks.hostId(diskId), choice);
    }

    @Override
    public HostEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        return devices.estimate(disks.hostId(diskId), storage, goal, watch);
    }
}
