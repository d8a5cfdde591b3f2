package app.granary.standins;

import app.granary.core.destination.Destination;
import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.elsewhere.ElsewhereDisk;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.host.FolderShelf;
import app.granary.engine.host.HostUnfinished;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageFacts;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Shelf;
import app.granary.engine.host.Storage;
import app.granary.engine.progress.Watch;
import app.granary.core.measure.Sizes;
import app.granary.engine.host.Overwriting;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** The office's drives, as the places where images lie. */
final class SimulatedStore implements ImageStore {
    private final StandInDrives drives;
    private final Share share;
    private final Path scratch;

    /** @param scratch an existing folder */
    SimulatedStore(StandInDrives drives, Share share, Path scratch) {
        this.scratch = scratch;
        this.drives = drives;
        this.share = share;
    }

    @Override
    public List<Destination> destinations() throws IOException {
        return share.bench() ? drives.destinations() : List.of();
    }

    /** The drive with most room, by its own figures; the bytes lie in the stand-ins' own folder. */
    Overwriting.ScratchRoom scratch(long neededBytes) throws IOException {
        return drives.destinations().stream().filter(each -> each.attached() && each.writable() && each.freeBytes() >= neededBytes)
            .max(Comparator.comparingLong(Destination::freeBytes)).map(each -> new Overwriting.ScratchRoom(each.name(), each.freeBytes()))
            .orElseThrow(() -> Fault.of(Fault.Kind.NO_ROOM, "", "No drive has room for a scratch file of " + Sizes.decimal(neededBytes)
                + ", in which the file systems are made smaller. Attach one.").asException());
    }

    /** Where an image lies. */
    Path bag(ImageAt image) throws IOException {
        Path folder = drives.folder(drives.drive(image.destinationId()));
        return ImageWork.bag(folder, folder, image);
    }

    /** One that other tools made, as a disk. */
    BlockSource disk(ImageAt image) throws IOException {
        Path root = drives.folder(drives.drive(image.destinationId()));
        ElsewhereImage known = image.elsewhere().orElseThrow();
        return ElsewhereDisk.forLooking(root, scaleOf(root, known).real(known), scratch);
    }

    /** How many bytes one of its bytes stands for. */
    long factor(ImageAt image) throws IOException {
        return image.elsewhere().isEmpty() ? StandInDrives.scaleOf(bag(image)).factor()
            : scaleOf(drives.folder(drives.drive(image.destinationId())), image.elsewhere().get()).factor();
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        Path root = drives.folder(drives.drive(destinationId));
        return new FolderShelf(root, root, StandInDrives::besides);
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        Path bag = bag(image);
        return StandInDrives.scaleOf(bag).of(ImageWork.facts(bag));
    }

    @Override
    public List<HostUnfinished> unfinished(String destinationId) throws IOException {
        Optional<StandInDrive> drive = drives.attached(destinationId);
        List<HostUnfinished> out = new ArrayList<>();
        if (drive.isPresent()) {
            for (HostUnfinished real : ImageWork.unfinished(drives.folder(drive.get()))) {
                long factor = drives.scaleOf(destinationId, real.name()).factor();
                out.add(new HostUnfinished(real.name(), real.disk().withSize(real.disk().sizeBytes() * factor), real.begunAt(),
                    real.storedBytes() * factor, real.doneShare(),
                    real.encrypted(),
                    new Storage(real.storage().codec(), real.storage().level(), new Scale(factor).of(real.storage().splitBytes()),
                        real.storage().choice()),
                    real.carryable()));
            }
        }
        return out;
    }

    @Override
    public void discard(String destinationId, String name) throws IOException {
        StandInDrive drive = drives.drive(destinationId);
        Unfinished.discard(drives.folder(drive), ImageName.parse(name));
        drives.tidy(drive, name);
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        Path root = drives.folder(drives.drive(destinationId));
        ElsewhereScan.Found found = ImageWork.elsewhere(root, root, folder, watch);
        List<ElsewhereImage> scaled = new ArrayList<>();
        for (ElsewhereImage each : found.images()) {
            scaled.add(scaleOf(root, each).of(each));
        }
        return new ElsewhereScan.Found(scaled, found.all());
    }

    @Override
    public ElsewhereImage kept(String destinationId, String folder, String name) throws IOException {
        Path root = drives.folder(drives.drive(destinationId));
        ElsewhereImage found = ElsewhereScan.kept(root, folder, name);
        return scaleOf(root, found).of(found);
    }

    /** Of an image made elsewhere the note lies beside its folder. */
    static Scale scaleOf(Path root, ElsewhereImage image) throws IOException {
        Path folder = ElsewhereScan.within(root, image.folder());
        return image.kind() == ElsewhereImage.Kind.GRANARY ? StandInDrives.scaleOf(folder.resolve(image.name()))
            : folder.equals(root.toRealPath()) ? new Scale(1) : StandInDrives.scaleOf(folder);
    }
}
