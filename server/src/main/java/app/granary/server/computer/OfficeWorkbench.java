package app.granary.server.computer;

import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.SeenDisk;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.site.ImageAt;
import app.granary.engine.site.Workbench;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;

/** The workbench, with the disks that are copied from under the names the office's records have for them. */
record OfficeWorkbench(Workbench bench, DisksAtHand disks) implements Workbench {
    private From named(From from) throws IOException {
        return from instanceof From.Disk disk ? new From.Disk(disks.siteId(disk.diskId())) : from;
    }

    @Override
    public RestoreLayout layout(From from, String targetId, Firmware firmware, LayoutChoice choice) throws IOException {
        return bench.layout(named(from), targetId, firmware, choice);
    }

    @Override
    public RestoreOutcome write(From from, Confirmed target, Firmware firmware, LayoutChoice choice, How how, Watch watch)
        throws IOException {
        return bench.write(named(from), target, firmware, choice, how, watch);
    }

    @Override
    public List<TargetDisk> targets() throws IOException {
        return bench.targets();
    }

    @Override
    public List<SeenDisk> seen() throws IOException {
        return bench.seen();
    }

    @Override
    public List<RawFile> rawFiles() throws IOException {
        return bench.rawFiles();
    }

    @Override
    public RestoreOutcome writeRaw(String rawFileId, Confirmed target, Watch watch) throws IOException {
        return bench.writeRaw(rawFileId, target, watch);
    }

    @Override
    public PartitionTable prepare(Preparation how, Confirmed target, Random ids, Watch watch) throws IOException {
        return bench.prepare(how, target, ids, watch);
    }

    @Override
    public Rehearsed rehearse(ImageAt image, Path picture, Watch watch) throws IOException {
        return bench.rehearse(image, picture, watch);
    }
}
