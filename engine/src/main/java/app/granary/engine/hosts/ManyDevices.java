package app.granary.engine.hosts;

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
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** The disks of all machines; each is read where it is. */
final class ManyDevices implements Devices {
    private final Whereabouts whereabouts;

    ManyDevices(Whereabouts whereabouts) {
        this.whereabouts = whereabouts;
    }

    @Override
    public List<HostComputer> computers() throws IOException {
        List<HostComputer> out = new ArrayList<>();
        for (Whereabouts.Holder each : whereabouts.all()) {
            each.host().devices().computers().forEach(computer -> out.add(computer.by(each.place())));
        }
        out.sort(Comparator.comparing(HostComputer::name));
        return out;
    }

    @Override
    public List<SeenDisk> seen() throws IOException {
        List<SeenDisk> out = new ArrayList<>();
        for (Whereabouts.Holder each : whereabouts.all()) {
            out.addAll(each.host().devices().seen());
        }
        return out;
    }

    @Override
    public String inUse(String diskId) throws IOException {
        return whereabouts.ofDisk(diskId).host().devices().inUse(diskId);
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        return whereabouts.ofDisk(diskId).host().devices().survey(diskId, choice);
    }

    @Override
    public HostEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        return whereabouts.ofDisk(diskId).host().devices().estimate(diskId, storage, goal, watch);
    }
}
