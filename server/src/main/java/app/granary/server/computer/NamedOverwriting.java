package app.granary.server.computer;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.PartitionTable;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.copy.StickImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.host.Overwriting;
import java.io.IOException;
import java.util.List;
import java.util.Random;

/** What can be overwritten on a host, with the disks that are copied from under the names the office's records have for them. */
record NamedOverwriting(Overwriting overwriting, DisksAtHand disks) implements Overwriting {
    private From named(From from) throws IOException {
        return from instanceof From.Disk disk ? new From.Disk(disks.hostId(disk.diskId()), disk.allSectors()) : from;
    }

    @Override
    public RestoreLayout layout(From from, String targetId, Firmware firmware, LayoutChoice choice) throws IOException {
        return overwriting.layout(named(from), targetId, firmware, choice);
    }

    @Override
    public ScratchRoom scratch(String targetId, long neededBytes) throws IOException {
        return overwriting.scratch(targetId, neededBytes);
    }

    @Override
    public RestoreOutcome write(From from, Confirmed target, Firmware firmware, LayoutChoice choice, How how, Watch watch)
        throws IOException {
        return overwriting.write(named(from), target, firmware, choice, how, watch);
    }

    @Override
    public List<TargetDisk> targets() throws IOException {
        return overwriting.targets();
    }

    @Override
    public TargetLook target(String id) throws IOException {
        return overwriting.target(id);
    }

    @Override
    public List<RawFile> rawFiles() throws IOException {
        return overwriting.rawFiles();
    }

    @Override
    public RestoreOutcome writeRaw(String rawFileId, Confirmed target, Watch watch) throws IOException {
        return overwriting.writeRaw(rawFileId, target, watch);
    }

    @Override
    public StickImage keepRaw(String targetId, DiskIdentity stick, String name, Watch watch) throws IOException {
        return overwriting.keepRaw(targetId, stick, name, watch);
    }

    @Override
    public String digestRaw(String rawFileId, Watch watch) throws IOException {
        return overwriting.digestRaw(rawFileId, watch);
    }

    @Override
    public PartitionTable prepare(Preparation how, Confirmed target, Random ids, Watch watch) throws IOException {
        return overwriting.prepare(how, target, ids, watch);
    }
}
