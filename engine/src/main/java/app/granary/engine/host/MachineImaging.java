package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.copy.BagCopy;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.OptionalInt;

/** Work on images, of this machine's disks and on its destinations. */
final class MachineImaging implements Imaging {
    private static final Duration ENDING = Duration.ofSeconds(40);
    private static final long LOOK_MILLIS = 200;

    private final MachineDevices devices;
    private final MachineStore store;
    private final Path scratch;
    private final KeptRoom kept;
    private final Clock clock;

    /** @param scratch where rehearsals restore to; made when first needed */
    MachineImaging(MachineDevices devices, MachineStore store, Path scratch, KeptRoom kept, Clock clock) {
        this.devices = devices;
        this.store = store;
        this.scratch = scratch;
        this.kept = kept;
        this.clock = clock;
    }

    /**
     * Work that an office asked for, which was killed then, holds its disk here until it has heard that nobody waits for it; what that
     * office asks for when it is back waits so long.
     */
    private static BlockDevices.Held hold(MachineDevices.Found found, OptionalInt own, Watch watch) throws IOException {
        long end = System.nanoTime() + ENDING.toNanos();
        while (DeviceHold.isOurs(found.path()) && System.nanoTime() < end) {
            watch.requireGoingOn(found.disk().name());
            Rest.millis(LOOK_MILLIS);
        }
        return own.isPresent() ? BlockDevices.holdBeside(found.path(), own.getAsInt(), found.disk().name())
            : new BlockDevices.Held(List.of(BlockDevices.hold(found.path(), found.disk().name())));
    }

    /** An image cannot hold the partition it is written to. */
    private static void requireLeftOut(MachineDevices.Found found, OptionalInt own, Storage storage) throws IOException {
        if (own.isPresent() && !storage.choice().without().contains(own.getAsInt())) {
            throw Fault.of(Fault.Kind.FORBIDDEN, found.disk().name(), "The destination is partition " + own.getAsInt() + " of "
                + found.disk().name() + " itself, which was to be imaged. Leave that partition out, or choose another drive.")
                .asException();
        }
    }

    @Override
    public HostImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        MachineDevices.Found found = devices.require(diskId);
        Path folder = store.imagesOn(destinationId);
        OptionalInt own = store.partitionOn(found, destinationId);
        requireLeftOut(found, own, storage);
        try (BlockDevices.Held held = hold(found, own, watch); RawSource source = RawSource.open(found.path())) {
            CaptureResult result = ImageWork.capture(source, found.disk().identity(), storage, name, folder, clock, kept.over(watch,
                folder));
            return ImageWork.made(result, result.bag().toString());
        }
    }

    @Override
    public HostImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        MachineDevices.Found found = devices.require(diskId);
        Path folder = store.imagesOn(unfinished.destinationId());
        OptionalInt own = store.partitionOn(found, unfinished.destinationId());
        try (BlockDevices.Held held = hold(found, own, watch); RawSource source = RawSource.open(found.path())) {
            CaptureResult result = ImageWork.carryOn(source, found.disk().identity(), folder, unfinished.name(), unfinished.passphrase(),
                clock,
                kept.over(watch, folder));
            return ImageWork.made(result, result.bag().toString());
        }
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        Path bag = store.bag(image);
        return ImageWork.check(bag, image.passphrase(), level, Files.createDirectories(scratch),
            level == ProofLevel.REHEARSED ? rehearsing(bag, watch) : watch);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return ElsewhereCheck.run(store.root(destinationId), image, level, watch);
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Path folder = store.imagesOn(toDestinationId);
        return BagCopy.run(store.bag(image), folder, kept.over(watch, folder));
    }

    @Override
    public Repair.Repaired repair(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        return ImageWork.repair(store.bag(damaged), damaged.passphrase(), store.bag(sound), level, watch);
    }

    @Override
    public List<String> discs(ImageAt image, long discBytes, boolean iso, Watch watch) throws IOException {
        return ImageWork.discs(store.bag(image), store.root(image.destinationId()), discBytes, iso, watch);
    }

    @Override
    public Started start(ImageAt image) throws IOException {
        return ImageWork.start(Bag.open(store.bag(image), image.passphrase()));
    }

    /** @throws FaultException of kind NO_ROOM when what the disk held does not fit beside Granary's own data */
    private Watch rehearsing(Path bag, Watch watch) throws IOException {
        if (kept.isFor(Files.createDirectories(scratch))) {
            kept.require(Bag.open(bag).content().description().usedBytes());
        }
        return kept.over(watch, scratch);
    }
}
