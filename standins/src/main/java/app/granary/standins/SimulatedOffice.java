package app.granary.standins;

import app.granary.core.destination.Destination;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.plan.Afterwards;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.preflight.Power;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.BagWriter;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.copy.BagCopy;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.progress.Watch;
import app.granary.engine.site.Shelf;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.site.Desk;
import app.granary.engine.site.ImageAt;
import app.granary.engine.site.ImageFacts;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.SiteEstimate;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.SiteUnfinished;
import app.granary.engine.site.Storage;
import app.granary.engine.site.Workbench;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/** The Marrowby Survey Office: raw disk files filled from templates, drives that are folders, sizes and pace scaled. */
public final class SimulatedOffice implements Site, Past {
    private final Path disks;
    private final Path driveFolders;
    private final StandInDrives drives;
    private final Clock clock;
    private final double quicker;
    private final Path scratch;
    private final StandInFaults faults;
    private final Path once;
    private final SimulatedWorkbench workbench;

    /**
     * @param home where disks and drives are kept
     * @param pace 1 for the office's usual pace, more for quicker devices
     */
    public SimulatedOffice(Path home, Clock clock, double pace) throws IOException {
        this(home, home.resolve("once"), clock, pace);
    }

    /** @param once where each disk's capture for the past is kept, for this office and others to come */
    public SimulatedOffice(Path home, Path once, Clock clock, double pace) throws IOException {
        this.once = once;
        this.disks = Files.createDirectories(home.resolve("disks"));
        this.driveFolders = Files.createDirectories(home.resolve("drives"));
        this.clock = clock;
        this.quicker = pace;
        this.scratch = Files.createDirectories(home.resolve("scratch"));
        this.faults = new StandInFaults(driveFolders);
        this.drives = new StandInDrives(driveFolders, faults, pace);
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            Templates.disk(disk, disks);
        }
        this.workbench = new SimulatedWorkbench(this, faults, home);
        OldImages.lay(disks, driveFolders, StandInDrives.SCALE_SUFFIX, clock.instant());
    }

    @Override
    public String name() {
        return MarrowbySurveyOffice.NAME;
    }

    @Override
    public String simulation() {
        return "Simulated devices: the office is made up, sizes and pace are scaled, the bytes are real";
    }

    @Override
    public List<SiteComputer> computers() {
        List<SiteComputer> out = new ArrayList<>();
        for (MarrowbySurveyOffice.Desk desk : MarrowbySurveyOffice.DESKS) {
            List<SiteDisk> own = MarrowbySurveyOffice.DISKS.stream().filter(disk -> disk.computer().equals(desk.name()))
                .map(this::siteDisk).toList();
            out.add(new SiteComputer(desk.name().toLowerCase(java.util.Locale.ROOT), desk.name(), desk.role(), desk.owner(), desk.facts(),
                own));
        }
        return out;
    }

    private SiteDisk siteDisk(StandInDisk disk) {
        if (!faults.adapted(disk.id())) {
            return SiteDisk.lasting(disk.id(), disk.name(), disk.identity(), disk.bus(), drives.rate(disk.readRateBytes()));
        }
        String here = faults.adapter(disk.id());
        return new SiteDisk(here, here, "the disk in the adapter", new DiskIdentity("Whin adapter", "", disk.identity().sizeBytes()),
            "USB 3", "usb1/1-4", drives.rate(disk.readRateBytes()));
    }

    @Override
    public List<PastReading> readings() {
        List<PastReading> out = new ArrayList<>();
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            try {
                out.addAll(PastUse.of(disk, survey(disk.id(), SurveyChoice.USED).toldUsedBytes(), clock.instant()));
            } catch (IOException unreadable) {
                // a disk that cannot be read has no past either
            }
        }
        return out;
    }

    @Override
    public Power power() {
        return faults.power();
    }

    @Override
    public void sweep() throws IOException {
        Desk.sweep(scratch);
    }

    /** How many times as fast as the clock its devices work. */
    public double pace() {
        return MarrowbySurveyOffice.PACE * quicker;
    }

    @Override
    public List<PastNote> notes() {
        return MarrowbySurveyOffice.NOTES;
    }

    @Override
    public List<PastPlan> plans() {
        List<PastPlan> out = new ArrayList<>();
        MarrowbySurveyOffice.PLANS.forEach((name, daysAgo) -> out.add(new PastPlan(plan(name), daysAgo)));
        return out;
    }

    private static String plan(String name) {
        try (InputStream file = SimulatedOffice.class.getResourceAsStream("plans/" + name + ".json")) {
            return new String(file.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    @Override
    public List<PastRoom> room() {
        List<PastRoom> out = new ArrayList<>();
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            try {
                out.addAll(PastUse.of(drive, drive.occupiedBytes() + drives.imageBytes(drive), clock.instant()));
            } catch (IOException unreadable) {
                throw new UncheckedIOException(unreadable);
            }
        }
        return out;
    }

    @Override
    public List<Destination> destinations() throws IOException {
        return drives.destinations();
    }

    @Override
    public Optional<PastWork> work() {
        return clock instanceof MovedClock moved ? Optional.of(new PastImages(drives, disks, driveFolders, once, moved)) : Optional.empty();
    }

    /** Makes the office's disks and captures every one once, so that it starts quickly later, with a past. */
    public static void preparePast(Path home, Path once, Clock clock) throws IOException {
        PastImages.prepare(new SimulatedOffice(home, once, clock, 1).disks, once, clock);
    }

    private StandInDisk disk(String id) throws IOException {
        StandInDisk disk = MarrowbySurveyOffice.DISKS.stream().filter(d -> d.id().equals(id) || faults.adapter(d.id()).equals(id))
            .findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id,
                "The disk is not attached. Attach it and try again.").asException());
        if (faults.off(disk.computer())) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, id,
                    disk.computer() + " is switched off, so its disks are not attached. Start it from rescue media and try again.")
                .asException();
        }
        return disk;
    }

    /** One that is started again comes up with its own system, and is there as before. */
    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        faults.power(disk(diskId).computer(), action == Afterwards.OFF);
    }

    @Override
    public String machine(String diskId) throws IOException {
        return disk(diskId).computer();
    }

    StandInDrives drives() {
        return drives;
    }

    /** A disk of the office, whose computer may be switched off. */
    StandInDisk known(String id) throws IOException {
        return disk(id);
    }

    Path diskFile(String id) throws IOException {
        return Templates.disk(disk(id), disks);
    }

    @Override
    public Workbench workbench() {
        return workbench;
    }

    Path bag(ImageAt image) throws IOException {
        Path folder = drives.folder(drives.drive(image.destinationId()));
        return Desk.bag(folder, folder, image);
    }

    private PacedWatch paced(Watch watch, Scale scale, long readRate, StandInDrive drive) {
        return new PacedWatch(watch, scale, readRate, () -> faults.rate(drive.id(), drives.rate(drive.writeRateBytes())), faults,
            drive.id());
    }

    private BlockSource open(StandInDisk disk) throws IOException {
        return faults.worn(disk, RawSource.open(Templates.disk(disk, disks)));
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        StandInDisk disk = disk(diskId);
        try (BlockSource source = open(disk)) {
            return new Scale(disk.scale()).of(DiskSurvey.of(new CarefulSource(source), choice), disk.computer() + " " + disk.name());
        }
    }

    @Override
    public SiteEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        try (BlockSource source = open(disk)) {
            SiteEstimate real = Desk.estimate(source, storage, goal.scaled(disk.scale()), watch);
            return new SiteEstimate(new Scale(disk.scale()).of(real.size()), new Scale(disk.scale()).of(real.encryptedSize()),
                real.compressRateBytes() * disk.scale(), real.compressRateBytes(), OptionalLong.empty());
        }
    }

    @Override
    public SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        StandInDrive drive = drives.drive(destinationId);
        drives.note(drive, name, disk.scale());
        OptionalLong split = storage.splitBytes().isEmpty() && !storage.passphrase().isNone() ? OptionalLong.of(BagWriter.ENCRYPTED_SPLIT)
            : storage.splitBytes();
        OptionalLong realSplit = split.isPresent() ? OptionalLong.of(Math.max(BagWriter.MIN_SPLIT, split.getAsLong() / disk.scale()))
            : OptionalLong.empty();
        Storage real = new Storage(storage.codec(), storage.level(), realSplit, storage.choice(), storage.passphrase());
        return making(disk, drive, name, watch, (source, folder, paced) -> Desk.capture(source,
            disk.identity().withSize(source.sizeBytes()), real, name, folder, clock, paced));
    }

    @Override
    public SiteImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        return making(disk, drives.drive(unfinished.destinationId()), unfinished.name(), watch,
            (source, folder, paced) -> Desk.carryOn(source,
                disk.identity().withSize(source.sizeBytes()), folder, unfinished.name(), unfinished.passphrase(), clock, paced));
    }

    private interface Making {
        CaptureResult of(BlockSource source, Path folder, Watch paced) throws IOException;
    }

    private SiteImage making(StandInDisk disk, StandInDrive drive, String name, Watch watch, Making making) throws IOException {
        Path folder = drives.folder(drive);
        Scale scale = new Scale(disk.scale());
        try (BlockSource source = open(disk)) {
            CaptureResult result = making.of(source, folder, paced(watch, scale, drives.rate(disk.readRateBytes()), drive));
            return scale.of(Desk.made(result, drive.name() + ", folder " + name));
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
    public List<SiteUnfinished> unfinished(String destinationId) throws IOException {
        Optional<StandInDrive> drive = drives.attached(destinationId);
        List<SiteUnfinished> out = new ArrayList<>();
        if (drive.isPresent()) {
            for (SiteUnfinished real : Desk.unfinished(drives.folder(drive.get()))) {
                long factor = drives.scaleOf(destinationId, real.name()).factor();
                out.add(new SiteUnfinished(real.name(), real.disk().withSize(real.disk().sizeBytes() * factor), real.begunAt(),
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
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drives.drive(image.destinationId());
        Path bag = bag(image);
        Scale scale = StandInDrives.scaleOf(bag);
        return scale
            .of(Desk.check(bag, image.passphrase(), level, scratch, paced(watch, scale, drives.rate(drive.writeRateBytes()), drive)));
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        Path bag = bag(image);
        return StandInDrives.scaleOf(bag).of(Desk.facts(bag));
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Path bag = bag(image);
        StandInDrive to = drives.drive(toDestinationId);
        Scale scale = StandInDrives.scaleOf(bag);
        drives.note(to, image.name(), scale.factor());
        try {
            return scale.of(BagCopy.run(bag, drives.folder(to), paced(watch, scale, drives.rate(to.writeRateBytes()), to)));
        } finally {
            drives.tidy(to, image.name());
        }
    }

    @Override
    public Repair.Mended mend(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drives.drive(damaged.destinationId());
        Path bag = bag(damaged);
        Scale scale = StandInDrives.scaleOf(bag);
        Repair.Mended mended = Desk.mend(bag, damaged.passphrase(), bag(sound), level,
            paced(watch, scale, drives.rate(drive.writeRateBytes()), drive));
        return new Repair.Mended(mended.writtenBytes() * scale.factor(), scale.of(mended.check()));
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        Path root = drives.folder(drives.drive(destinationId));
        return new Shelf(root, root, StandInDrives::besides);
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        Path root = drives.folder(drives.drive(destinationId));
        ElsewhereScan.Found found = Desk.elsewhere(root, root, folder, watch);
        List<ElsewhereImage> scaled = new ArrayList<>();
        for (ElsewhereImage each : found.images()) {
            scaled.add(scaleOf(root, each).of(each));
        }
        return new ElsewhereScan.Found(scaled, found.all());
    }

    /** Of an image made elsewhere the note lies beside its folder. */
    private static Scale scaleOf(Path root, ElsewhereImage image) throws IOException {
        Path folder = ElsewhereScan.within(root, image.folder());
        return image.kind() == ElsewhereImage.Kind.GRANARY ? StandInDrives.scaleOf(folder.resolve(image.name()))
            : folder.equals(root.toRealPath()) ? new Scale(1) : StandInDrives.scaleOf(folder);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drives.drive(destinationId);
        Path root = drives.folder(drive);
        Scale scale = scaleOf(root, image);
        return scale
            .of(ElsewhereCheck.run(root, scale.real(image), level, paced(watch, scale, drives.rate(drive.writeRateBytes()), drive)));
    }

    /** What can be made to go wrong, for practice. */
    public Switchboard switchboard() {
        return faults;
    }
}
