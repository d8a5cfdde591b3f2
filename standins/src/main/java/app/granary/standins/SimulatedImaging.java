package app.granary.standins;

import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.copy.BagCopy;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Storage;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;

/** Work on the office's images: on real bytes, with sizes and pace scaled. */
final class SimulatedImaging implements Imaging {
    private final SimulatedDevices devices;
    private final SimulatedStore store;
    private final StandInDrives drives;
    private final StandInFaults faults;
    private final Path scratch;
    private final Clock clock;

    SimulatedImaging(SimulatedDevices devices, SimulatedStore store, StandInDrives drives, StandInFaults faults, Path scratch,
        Clock clock) {
        this.devices = devices;
        this.store = store;
        this.drives = drives;
        this.faults = faults;
        this.scratch = scratch;
        this.clock = clock;
    }

    @Override
    public HostImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        StandInDisk disk = devices.disk(diskId);
        StandInDrive drive = drives.drive(destinationId);
        drives.note(drive, name, disk.scale());
        OptionalLong split = storage.splitBytes().isEmpty() && !storage.passphrase().isNone() ? OptionalLong.of(BagWriter.ENCRYPTED_SPLIT)
            : storage.splitBytes();
        OptionalLong realSplit = split.isPresent() ? OptionalLong.of(Math.max(BagWriter.MIN_SPLIT, split.getAsLong() / disk.scale()))
            : OptionalLong.empty();
        Storage real = new Storage(storage.codec(), storage.level(), realSplit, storage.choice(), storage.comment(), storage.passphrase());
        return making(disk, drive, name, watch, (source, folder, paced) -> ImageWork.capture(source,
            disk.identity().withSize(source.sizeBytes()), real, name, folder, clock, paced));
    }

    @Override
    public HostImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        StandInDisk disk = devices.disk(diskId);
        return making(disk, drives.drive(unfinished.destinationId()), unfinished.name(), watch,
            (source, folder, paced) -> ImageWork.carryOn(source,
                disk.identity().withSize(source.sizeBytes()), folder, unfinished.name(), unfinished.passphrase(), clock, paced));
    }

    private interface Making {
        CaptureResult of(BlockSource source, Path folder, Watch paced) throws IOException;
    }

    private HostImage making(StandInDisk disk, StandInDrive drive, String name, Watch watch, Making making) throws IOException {
        Path folder = drives.folder(drive);
        Scale scale = new Scale(disk.scale());
        try (BlockSource source = devices.open(disk)) {
            CaptureResult result = making.of(source, folder, paced(watch, scale, drives.rate(disk.readRateBytes()), drive));
            return scale.of(ImageWork.made(result, drive.name() + ", folder " + name));
        } catch (IOException failed) {
            if (faults.unplugged(drive.id())) {
                faults.tearOff(folder.resolve(name + ImageName.PARTIAL));
            }
            drives.tidy(drive, name);
            throw named(failed, folder, drive);
        }
    }

    /** People know the drive by its name, not by a folder. */
    private static IOException named(IOException failed, Path folder, StandInDrive drive) {
        if (failed instanceof FaultException known) {
            Fault f = known.fault();
            return new Fault(f.kind(), f.device().replace(folder.toString(), drive.name()), f.offsetBytes(), f.expected(), f.found(),
                f.sentence().replace(folder.toString(), drive.name())).asException();
        }
        return failed;
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drives.drive(image.destinationId());
        Path bag = store.bag(image);
        Scale scale = StandInDrives.scaleOf(bag);
        return scale
            .of(ImageWork.check(bag, image.passphrase(), level, scratch, paced(watch, scale, drives.rate(drive.writeRateBytes()), drive)));
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Path bag = store.bag(image);
        StandInDrive to = drives.drive(toDestinationId);
        Scale scale = StandInDrives.scaleOf(bag);
        drives.note(to, image.name(), scale.factor());
        try {
            return scale.of(BagCopy.run(bag, drives.folder(to), paced(watch, scale, drives.rate(to.writeRateBytes()), to)));
        } finally {
            drives.tidy(to, image.name());
        }
    }

    /** As many discs as the office would need: the bytes of one are as many fewer as those of the image. */
    @Override
    public List<String> discs(ImageAt image, long discBytes, boolean iso, Watch watch) throws IOException {
        Path bag = store.bag(image);
        long real = Math.max(64 << 10, discBytes / StandInDrives.scaleOf(bag).factor());
        return ImageWork.discs(bag, drives.folder(drives.drive(image.destinationId())), real, iso, watch);
    }

    @Override
    public Repair.Repaired repair(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drives.drive(damaged.destinationId());
        Path bag = store.bag(damaged);
        Scale scale = StandInDrives.scaleOf(bag);
        Repair.Repaired repaired = ImageWork.repair(bag, damaged.passphrase(), store.bag(sound), level,
            paced(watch, scale, drives.rate(drive.writeRateBytes()), drive));
        return new Repair.Repaired(repaired.writtenBytes() * scale.factor(), scale.of(repaired.check()));
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drives.drive(destinationId);
        Path root = drives.folder(drive);
        Scale scale = SimulatedStore.scaleOf(root, image);
        return scale
            .of(ElsewhereCheck.run(root, scale.real(image), level, paced(watch, scale, drives.rate(drive.writeRateBytes()), drive)));
    }

    @Override
    public Started start(ImageAt image) throws IOException {
        return ImageWork.start(Bag.open(store.bag(image), image.passphrase()));
    }

    private PacedWatch paced(Watch watch, Scale scale, long readRate, StandInDrive drive) {
        return new PacedWatch(watch, scale, readRate, () -> faults.rate(drive.id(), drives.rate(drive.writeRateBytes())), faults,
            drive.id());
    }
}
