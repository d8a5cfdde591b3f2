package app.granary.standins;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.copy.StickImage;
import app.granary.engine.elsewhere.ElsewhereDisk;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.DiskCopy;
import app.granary.engine.restore.DrivePreparation;
import app.granary.engine.restore.RestoreLog;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.host.OverwriteWork;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Surveys;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;

/**
 * The office's spares, sticks and blank disks. Each is a raw file, as long as its size by the scale of what was last written onto it; a
 * note beside it keeps that scale. Sticks are true to size.
 */
final class SimulatedOverwriting implements Overwriting {
    /** A drive is prepared with real tools at this scale, so that a terabyte is a file of a gigabyte. */
    private static final long PREPARED_SCALE = 1000;

    private final SimulatedDevices devices;
    private final SimulatedStore store;
    private final StandInDrives drives;
    private final StandInFaults faults;
    private final Surveys surveys = new Surveys();
    private final TargetFiles files;
    private final Path rescue;
    private final Path scratch;
    private final Share share;

    SimulatedOverwriting(SimulatedDevices devices, SimulatedStore store, StandInDrives drives, StandInFaults faults, Path home, Share share)
        throws IOException {
        this.share = share;
        this.devices = devices;
        this.store = store;
        this.drives = drives;
        this.faults = faults;
        this.files = new TargetFiles(Files.createDirectories(home.resolve("targets")), devices);
        this.rescue = RescueFiles.lay(home.resolve("rescue"));
        this.scratch = Files.createDirectories(home.resolve("scratch"));
        if (share.bench()) {
            files.onKeys(rescue.resolve("larch-rescue-12.iso"));
        }
    }

    private static StandInTarget standIn(String id) throws IOException {
        return StandInTarget.ALL.stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow(
            () -> Fault.of(Fault.Kind.NOT_RECOGNISED, id, "That disk is not attached. Attach it and try again.").asException());
    }

    @Override
    public List<TargetDisk> targets() throws IOException {
        List<TargetDisk> out = share.bench() ? onTheBench() : new ArrayList<>();
        for (StandInDisk each : MarrowbySurveyOffice.DISKS.stream().filter(share::has).toList()) {
            boolean off = faults.off(each.computer());
            out.add(new TargetDisk("disk-" + each.id(), each.computer() + " " + each.name(), each.identity(), 512, each.bus(),
                TargetDisk.Kind.FIXED, !off, false, each.computer().equals("DATUM") ? "Granary and its network folder run from it" : "",
                List.of(), List.of(), drives.rate(each.readRateBytes())));
        }
        out.sort(Comparator.comparing(TargetDisk::name));
        return out;
    }

    private List<TargetDisk> onTheBench() throws IOException {
        List<TargetDisk> out = new ArrayList<>();
        for (StandInTarget each : StandInTarget.ALL) {
            SeenDisk seen = devices.seen(each);
            List<String> twins = faults.unplugged(each.id()) ? List.of() : seen.twins(devices.seen()).stream().map(SeenDisk::name).toList();
            out.add(new TargetDisk(each.id(), each.name(), seen.identity(), 512, each.bus(), each.kind(),
                !faults.unplugged(each.id()), faults.protectedFromWriting(each.id()), "", twins, List.of(),
                faults.rate(each.id(), drives.rate(each.rate()))));
        }
        for (StandInDrive each : MarrowbySurveyOffice.DRIVES) {
            if (!each.diskSerial().equals(each.name()) && !each.id().equals("shelf")) {
                out.add(new TargetDisk("drive-" + each.id(), each.name(),
                    new DiskIdentity("drive", each.diskSerial(), each.capacityBytes()), 512, "USB",
                    TargetDisk.Kind.DRIVE, drives.attached(each.id()).isPresent(), false, "", List.of(), drives.images(each),
                    drives.writeRate(each)));
            }
        }
        return out;
    }

    @Override
    public TargetLook target(String id) throws IOException {
        TargetDisk disk = disk(id);
        return new TargetLook(disk, id.startsWith("disk-") ? List.of("the computer's own system and files")
            : id.startsWith("drive-") ? List.of("images, and what else lies on it") : files.holds(standIn(id)));
    }

    private TargetDisk confirmed(Confirmed target) throws IOException {
        boolean there = targets().stream().anyMatch(each -> each.id().equals(target.targetId()));
        return OverwriteWork.require(there ? Optional.of(target(target.targetId())) : Optional.empty(), target);
    }

    private TargetDisk disk(String id) throws IOException {
        return targets().stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow(
            () -> Fault.of(Fault.Kind.NOT_RECOGNISED, id, "That disk is not attached. Attach it and try again.").asException());
    }

    private Bag open(ImageAt at) throws IOException {
        return Bag.open(store.bag(at), at.passphrase());
    }

    private LayoutTarget target(TargetDisk disk, long factor, Firmware firmware, boolean real) throws IOException {
        PartitionTable table = new PartitionTable.Absent();
        if (Files.exists(files.bytes(disk)) && (real || files.factor(disk) == factor)) {
            try (RawSource source = RawSource.open(files.bytes(disk))) {
                table = real ? PartitionTables.read(source) : new Scale(factor).of(PartitionTables.read(source));
            }
        }
        return new LayoutTarget(real ? TargetFiles.realBytes(disk.identity().sizeBytes(), factor) : disk.identity().sizeBytes(), 512,
            firmware, table,
            RestoreLayout.ALIGN * (real ? 1 : factor));
    }

    @Override
    public RestoreLayout layout(From from, String targetId, Firmware firmware, LayoutChoice choice) throws IOException {
        TargetDisk disk = disk(targetId);
        DiskSurvey survey;
        long factor;
        if (from instanceof From.Image image) {
            Bag bag = open(image.at());
            ImageJson.Content content = bag.content();
            factor = StandInDrives.scaleOf(bag.folder()).factor();
            survey = new Scale(factor).of(surveys.of(bag, content), content.description().name());
        } else if (from instanceof From.Elsewhere other) {
            Path root = drives.folder(drives.drive(other.destinationId()));
            Scale scale = SimulatedStore.scaleOf(root, other.image());
            factor = scale.factor();
            survey = scale.of(surveys.of(root, scale.real(other.image()), scratch, Watch.NONE), other.image().name());
        } else if (from instanceof From.Changed changed) {
            factor = StandInDrives.scaleOf(store.bag(changed.image())).factor();
            try (BlockSource left = changed.disk().open()) {
                survey = new Scale(factor).of(DiskSurvey.of(left, SurveyChoice.USED), changed.image().name());
            }
        } else {
            StandInDisk own = devices.disk(((From.Disk) from).diskId());
            factor = own.scale();
            survey = devices.survey(own.id(), ((From.Disk) from).choice());
        }
        return RestoreLayout.of(survey, target(disk, factor, firmware, false), choice);
    }

    @Override
    public ScratchRoom scratch(String targetId, long neededBytes) throws IOException {
        return store.scratch(neededBytes);
    }

    private Watch paced(Watch watch, long factor, long readRate, TargetDisk disk) {
        return new PacedWatch(watch, new Scale(factor), readRate, disk::writeRateBytes, faults, disk.id());
    }

    @Override
    public RestoreOutcome write(From from, Confirmed target, Firmware firmware, LayoutChoice choice, How how, Watch watch)
        throws IOException {
        TargetDisk to = confirmed(target);
        try {
            return write(from, to, firmware, choice, how, watch);
        } catch (app.granary.core.fault.FaultException known) {
            throw known;
        } catch (IOException failed) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, to.name(), to.inFull() + " failed while it was written: " + failed.getMessage()
                + ". What is on it is not complete. Attach it again and carry on, or take another disk.").asException();
        }
    }

    private RestoreOutcome write(From from, TargetDisk to, Firmware firmware, LayoutChoice choice, How how, Watch watch)
        throws IOException {
        if (from instanceof From.Image image) {
            Bag bag = open(image.at());
            long factor = StandInDrives.scaleOf(bag.folder()).factor();
            Path file = files.ready(to, factor);
            RestoreLog log = new RestoreLog(files.log(to), to.identity().serial());
            long rate = drives.rate(drives.drive(image.at().destinationId()).writeRateBytes());
            RestoreOutcome real = OverwriteWork.write(bag, surveys, target(to, factor, firmware, true),
                RestoreTarget.device(file, 0, 512), choice.divided(factor), how, log, needed -> scratch, paced(watch, factor, rate, to));
            return new Scale(factor).of(real, to.identity().sizeBytes());
        }
        if (from instanceof From.Elsewhere other) {
            Path root = drives.folder(drives.drive(other.destinationId()));
            Scale scale = SimulatedStore.scaleOf(root, other.image());
            ElsewhereImage real = scale.real(other.image());
            if (how.checkFirst()) {
                OverwriteWork.requireSound(root, real, watch);
            }
            try (BlockSource left = ElsewhereDisk.open(root, real, scratch, watch)) {
                long rate = drives.rate(drives.drive(other.destinationId()).writeRateBytes());
                return copy(left, OverwriteWork.choice(real), scale.factor(), rate, to, firmware, choice, how, watch);
            }
        }
        if (from instanceof From.Changed changed) {
            try (BlockSource left = changed.disk().open()) {
                long factor = StandInDrives.scaleOf(store.bag(changed.image())).factor();
                long rate = drives.rate(drives.drive(changed.image().destinationId()).writeRateBytes());
                return copy(left, SurveyChoice.USED, factor, rate, to, firmware, choice, how, watch);
            }
        }
        StandInDisk own = devices.disk(((From.Disk) from).diskId());
        try (RawSource disk = RawSource.open(devices.file(own))) {
            return copy(faults.worn(own, disk), ((From.Disk) from).choice(), own.scale(), drives.rate(own.readRateBytes()), to, firmware,
                choice,
                how, watch);
        }
    }

    private RestoreOutcome copy(BlockSource disk, SurveyChoice of, long factor, long rate, TargetDisk to, Firmware firmware,
        LayoutChoice choice, How how, Watch watch) throws IOException {
        RestoreTarget onto = RestoreTarget.device(files.ready(to, factor), 0, 512);
        RestoreOutcome real = OverwriteWork.copy(disk, of, target(to, factor, firmware, true), onto, choice.divided(factor), how,
            needed -> scratch, paced(watch, factor, rate, to));
        return new Scale(factor).of(real, to.identity().sizeBytes());
    }

    /** Files for sticks, as the office lends them. */
    Path rescueFiles() {
        return rescue;
    }

    @Override
    public List<RawFile> rawFiles() throws IOException {
        return RescueFiles.in(rescue, standIn("key-c").serial());
    }

    /** By what lies there, so that no name becomes a path. */
    private Path raw(String id) throws IOException {
        return rescue.resolve(rawFiles().stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow(
            () -> Fault.of(Fault.Kind.NOT_RECOGNISED, id, "That file is not there any more. Choose another.").asException()).id());
    }

    @Override
    public RestoreOutcome writeRaw(String rawFileId, Confirmed target, Watch watch) throws IOException {
        TargetDisk to = confirmed(target);
        try (RawSource source = RawSource.open(raw(rawFileId))) {
            return DiskCopy.bytes(source, to.identity().sizeBytes(), RestoreTarget.device(files.ready(to, 1), 0, 512), true,
                paced(watch, 1, 3_000_000, to));
        }
    }

    @Override
    public StickImage keepRaw(String targetId, DiskIdentity stick, String name, Watch watch) throws IOException {
        TargetDisk from = disk(targetId);
        if (!from.attached() || !from.identity().same(stick)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, targetId, from.name() + " is not plugged in. Plug it in, and try again.")
                .asException();
        }
        try (RawSource source = RawSource.open(files.there(from))) {
            return StickImage.keep(source, rescue, name, paced(watch, 1, 3_000_000, from));
        }
    }

    @Override
    public String digestRaw(String rawFileId, Watch watch) throws IOException {
        return StickImage.digest(raw(rawFileId), watch);
    }

    @Override
    public PartitionTable prepare(Preparation how, Confirmed target, Random ids, Watch watch) throws IOException {
        TargetDisk to = confirmed(target);
        long factor = to.kind() == TargetDisk.Kind.STICK ? 1 : PREPARED_SCALE;
        Path file = files.ready(to, factor);
        List<String> problems = how.problems(to.identity().sizeBytes(), 512);
        if (!problems.isEmpty()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, to.name(), problems.get(0) + " Nothing was written.").asException();
        }
        Preparation real = new Preparation(how.scheme(), how.fileSystem(), how.name(),
            how.rescueBytes() == 0 ? 0 : Math.max(64L << 20, how.rescueBytes() / factor));
        return DrivePreparation.run(real, Files.size(file), 512, RestoreTarget.device(file, 0, 512), scratch, ids, watch);
    }
}
