package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutTarget;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.measure.Sizes;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.bag.Bag;
import app.granary.engine.copy.StickImage;
import app.granary.engine.elsewhere.ElsewhereDisk;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.DiskCopy;
import app.granary.engine.restore.DrivePreparation;
import app.granary.engine.restore.RestoreLog;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import app.granary.engine.source.Sysfs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;

/** This machine's disks, and raw files in two folders: one of files that stand for disks, one of files that can be written onto sticks. */
final class MachineOverwriting implements Overwriting {
    /** A removable disk below this size is taken for a stick (common practice, no source). */
    private static final long STICK_BYTES = 300_000_000_000L;

    private final MachineDevices devices;
    private final MachineStore store;
    private final Path targets;
    private final Path scratch;
    private final ScratchFolders lent;
    private final KeptRoom kept;

    MachineOverwriting(MachineDevices devices, MachineStore store, Path targets, Path scratch, ScratchFolders lent, KeptRoom kept) {
        this.lent = lent;
        this.kept = kept;
        this.devices = devices;
        this.store = store;
        this.targets = targets;
        this.scratch = scratch;
    }

    private record Found(TargetDisk disk, Path path) {
        TargetLook look() {
            return new TargetLook(disk, held());
        }

        private List<String> held() {
            try (RawSource source = RawSource.open(path)) {
                return OverwriteWork.holds(source, 1);
            } catch (IOException mayNot) {
                return List.of("what is on it may not be read by this account");
            }
        }
    }

    /** In order of name; nothing on them is read. */
    private List<Found> found() throws IOException {
        List<Found> out = new ArrayList<>();
        Attachments attachments = devices.attachments();
        for (Attachments.Attached each : attachments.all()) {
            out.add(new Found(disk(each, attachments.twins(each.seen())), Path.of(each.device().path())));
        }
        for (Path file : new RawFiles(targets).all()) {
            String name = file.getFileName().toString();
            try (RawSource source = RawSource.open(file)) {
                out.add(new Found(
                    new TargetDisk("file-" + devices.salted(name), name, new DiskIdentity("raw image file", name, source.sizeBytes()),
                    source.sectorBytes(),
                        "file", TargetDisk.Kind.SPARE, true, !Files.isWritable(file), BlockDevices.heldBy(file), List.of(), List.of(),
                        Links.SATA),
                    file));
            }
        }
        out.sort(Comparator.comparing(each -> each.disk.name()));
        return out;
    }

    private static TargetDisk disk(Attachments.Attached attached, List<String> twins) throws IOException {
        Lsblk.Device device = attached.device();
        boolean removable = device.bus().equals("usb");
        TargetDisk.Kind kind = !removable ? TargetDisk.Kind.FIXED
            : device.sizeBytes() < STICK_BYTES ? TargetDisk.Kind.STICK : TargetDisk.Kind.SPARE;
        return new TargetDisk(Attachments.targetId(attached.seen()), device.path(), device.identity(),
            Sysfs.sectorBytes(Path.of(device.path())), device.bus(), kind, true, device.readOnly(),
            BlockDevices.heldBy(Path.of(device.path())), twins, List.of(), Links.rate(device.bus()));
    }

    @Override
    public List<TargetDisk> targets() throws IOException {
        return found().stream().map(Found::disk).toList();
    }

    @Override
    public TargetLook target(String id) throws IOException {
        return require(id).look();
    }

    private Found require(String id) throws IOException {
        return found().stream().filter(each -> each.disk.id().equals(id)).findFirst().orElseThrow(() -> Fault
            .of(Fault.Kind.NOT_RECOGNISED, id, "That disk is not attached to this machine. Attach it and try again.").asException());
    }

    private static LayoutTarget target(Found found, Firmware firmware) throws IOException {
        PartitionTable table;
        try (RawSource source = RawSource.open(found.path)) {
            table = PartitionTables.read(source);
        } catch (IOException mayNot) {
            table = new PartitionTable.Absent();
        }
        return new LayoutTarget(found.disk.identity().sizeBytes(), found.disk.sectorBytes(), firmware, table, RestoreLayout.ALIGN);
    }

    private static RestoreTarget overwritten(Found found) {
        return RestoreTarget.device(found.path, 0, found.disk.sectorBytes());
    }

    private Bag open(ImageAt at) throws IOException {
        return Bag.open(store.bag(at), at.passphrase());
    }

    private TargetHold<Found> confirmed(Confirmed target) throws IOException {
        return TargetHold.of(new TargetHold.Machine<>() {
            @Override
            public List<Found> found(String id) throws IOException {
                return MachineOverwriting.this.found().stream().filter(each -> each.disk.id().equals(id)).toList();
            }

            @Override
            public TargetLook look(Found found) {
                return found.look();
            }

            @Override
            public boolean same(Found one, Found other) {
                return one.path.equals(other.path);
            }

            @Override
            public TargetHold.Hold hold(Found found) throws IOException {
                return BlockDevices.hold(found.path, found.disk.name())::close;
            }
        }, target);
    }

    private static SurveyChoice choice(From from) {
        return from instanceof From.Elsewhere other ? OverwriteWork.choice(other.image()) : SurveyChoice.USED;
    }

    /** A disk that is no device of this machine. */
    private BlockSource opened(From from, Watch watch) throws IOException {
        return from instanceof From.Elsewhere other
            ? ElsewhereDisk.open(store.root(other.destinationId()), other.image(), Files.createDirectories(scratch), kept.over(watch,
                scratch))
            : ((From.Changed) from).disk().open();
    }

    @Override
    public RestoreLayout layout(From from, String targetId, Firmware firmware, LayoutChoice choice) throws IOException {
        LayoutTarget size = target(require(targetId), firmware);
        DiskSurvey survey;
        if (from instanceof From.Image image) {
            Bag bag = open(image.at());
            survey = devices.surveys().of(bag, bag.content());
        } else if (from instanceof From.Disk disk) {
            survey = devices.surveys().careful(devices.require(disk.diskId()).path(), disk.choice());
        } else if (from instanceof From.Elsewhere other) {
            survey = devices.surveys().of(store.root(other.destinationId()), other.image(), Files.createDirectories(scratch),
                kept.over(Watch.NONE, scratch));
        } else {
            try (BlockSource disk = opened(from, Watch.NONE)) {
                survey = DiskSurvey.of(disk, SurveyChoice.USED);
            }
        }
        return RestoreLayout.of(survey, size, choice);
    }

    @Override
    public RestoreOutcome write(From from, Confirmed target, Firmware firmware, LayoutChoice choice, How how, Watch watch)
        throws IOException {
        try (TargetHold<Found> held = confirmed(target)) {
            Found to = held.disk();
            OverwriteWork.Scratch into = needed -> lent.in(room(to.disk, needed).folder);
            if (from instanceof From.Image image) {
                Path log = Files.createDirectories(scratch).resolve(to.disk.id() + ".log");
                return OverwriteWork.write(open(image.at()), devices.surveys(), target(to, firmware), overwritten(to), choice, how,
                    new RestoreLog(log, to.disk.identity().serial()), into, watch);
            }
            if (!(from instanceof From.Disk)) {
                if (from instanceof From.Elsewhere other && how.checkFirst()) {
                    OverwriteWork.requireSound(store.root(other.destinationId()), other.image(), watch);
                }
                try (BlockSource disk = opened(from, watch)) {
                    return OverwriteWork.copy(disk, choice(from), target(to, firmware), overwritten(to), choice, how, into, watch);
                }
            }
            String diskId = ((From.Disk) from).diskId();
            try (DeviceHold source = devices.holdDisk(diskId); RawSource disk = devices.openDisk(diskId)) {
                return OverwriteWork.copy(disk, ((From.Disk) from).choice(), target(to, firmware), overwritten(to), choice, how, into,
                    watch);
            }
        }
    }

    private record Room(String where, Path folder, long freeBytes) {
    }

    /** On a drive, since those have room; on the machine's own folder where that has more. Never on the target itself. */
    private Room room(TargetDisk target, long neededBytes) throws IOException {
        List<Room> all = new ArrayList<>(store.scratchPlaces(target.identity().serial()).stream()
            .map(each -> new Room(each.name(), each.folder(), each.freeBytes())).toList());
        Path own = Files.createDirectories(scratch);
        all.add(new Room("this machine's own folder", own, Files.getFileStore(own).getUsableSpace()));
        Room most = all.stream().max(Comparator.comparingLong(Room::freeBytes)).orElseThrow();
        if (most.freeBytes < neededBytes) {
            throw Fault.of(Fault.Kind.NO_ROOM, most.where, "Making the file systems smaller takes a scratch file of "
                + Sizes.decimal(neededBytes) + ", and no place on the machine with the target has so much free; " + most.where
                    + " has most, "
                + Sizes.decimal(most.freeBytes) + ". Attach a drive with more room to it.").asException();
        }
        return most;
    }

    @Override
    public ScratchRoom scratch(String targetId, long neededBytes) throws IOException {
        Room room = room(require(targetId).disk, neededBytes);
        return new ScratchRoom(room.where, room.freeBytes);
    }

    /** Those that can be written onto sticks. */
    RawFiles rescueFiles() {
        return new RawFiles(targets.resolveSibling("rescue"));
    }

    @Override
    public List<RawFile> rawFiles() throws IOException {
        return rescueFiles().described();
    }

    @Override
    public RestoreOutcome writeRaw(String rawFileId, Confirmed target, Watch watch) throws IOException {
        Path file = rawFile(rawFileId);
        try (TargetHold<Found> held = confirmed(target); RawSource source = RawSource.open(file)) {
            Found to = held.disk();
            return DiskCopy.bytes(source, to.disk.identity().sizeBytes(), overwritten(to), true, watch);
        }
    }

    @Override
    public StickImage keepRaw(String targetId, DiskIdentity stick, String name, Watch watch) throws IOException {
        Found found = require(targetId);
        if (!found.disk.identity().same(stick)) {
            throw Fault.of(Fault.Kind.FORBIDDEN, found.disk.name(), found.disk.name() + " is not the stick that is meant any more ("
                + stick.inWords() + "). Plug that one in.").asException();
        }
        return rescueFiles().keep(found.path, found.disk.name(), name, store.keptOver(watch, rescueFiles().folder()));
    }

    @Override
    public String digestRaw(String rawFileId, Watch watch) throws IOException {
        return StickImage.digest(rawFile(rawFileId), watch);
    }

    private Path rawFile(String id) throws IOException {
        Optional<Path> lent = store.lentFile(id);
        return lent.isPresent() ? lent.get() : rescueFiles().named(id);
    }

    @Override
    public PartitionTable prepare(Preparation how, Confirmed target, Random ids, Watch watch) throws IOException {
        try (TargetHold<Found> held = confirmed(target)) {
            Found to = held.disk();
            return DrivePreparation.run(how, to.disk.identity().sizeBytes(), to.disk.sectorBytes(), overwritten(to),
                Files.createDirectories(scratch), ids, watch);
        }
    }
}
