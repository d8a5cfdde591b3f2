package app.granary.standins;

import app.granary.core.destination.Destination;
import app.granary.core.disk.BlockSource;
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
import app.granary.engine.release.Shelf;
import app.granary.engine.release.Trash;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.site.Desk;
import app.granary.engine.site.ImageAt;
import app.granary.engine.site.ImageFacts;
import app.granary.engine.site.PastNote;
import app.granary.engine.site.PastPlan;
import app.granary.engine.site.PastReading;
import app.granary.engine.site.PastRoom;
import app.granary.engine.site.PastWork;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.SiteEstimate;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.SiteUnfinished;
import app.granary.engine.site.Storage;
import app.granary.engine.site.Switchboard;
import app.granary.engine.source.Folders;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;

/** The Marrowby Survey Office: raw disk files filled from templates, drives that are folders, sizes and pace scaled. */
public final class SimulatedOffice implements Site {
    /** Beside an image: how many bytes one of its bytes stands for. Outside the image's folder, which holds only what its manifest lists. */
    private static final String SCALE_SUFFIX = ".scale";
    private static final String PAST_SUFFIX = ".past";

    private final Path disks;
    private final Path drives;
    private final Clock clock;
    private final double quicker;
    private final Path scratch;
    private final StandInFaults faults;
    private final Path once;

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
        this.drives = Files.createDirectories(home.resolve("drives"));
        this.clock = clock;
        this.quicker = pace;
        this.scratch = Files.createDirectories(home.resolve("scratch"));
        this.faults = new StandInFaults(drives);
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            Templates.disk(disk, disks);
        }
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            Files.createDirectories(drives.resolve(drive.id()));
        }
        OldImages.lay(disks, drives, SCALE_SUFFIX, clock.instant());
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
                .map(disk -> new SiteDisk(disk.id(), disk.name(), disk.identity(), disk.bus(), rate(disk.readRateBytes()))).toList();
            out.add(new SiteComputer(desk.name().toLowerCase(java.util.Locale.ROOT), desk.name(), desk.role(), desk.owner(), desk.facts(), own));
        }
        return out;
    }

    @Override
    public List<PastReading> pastReadings() {
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
    public double pace() {
        return MarrowbySurveyOffice.PACE * quicker;
    }

    @Override
    public List<PastNote> pastNotes() {
        return MarrowbySurveyOffice.NOTES;
    }

    @Override
    public List<PastPlan> pastPlans() {
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
    public List<PastRoom> pastRoom() {
        List<PastRoom> out = new ArrayList<>();
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            try {
                out.addAll(PastUse.of(drive, drive.occupiedBytes() + imageBytes(drives.resolve(drive.id())), clock.instant()));
            } catch (IOException unreadable) {
                throw new UncheckedIOException(unreadable);
            }
        }
        return out;
    }

    private long rate(long bytes) {
        return Math.max(1, (long) (bytes * quicker));
    }

    @Override
    public List<Destination> destinations() throws IOException {
        List<Destination> out = new ArrayList<>();
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            long free = faults.full(drive.id()) ? 0 : Math.max(0, drive.capacityBytes() - Math.max(0, drive.occupiedBytes() - pastBytes(drive.id())) - imageBytes(drives.resolve(drive.id())));
            out.add(new Destination(drive.id(), drive.name(), drive.place(), attached(drive), true, drive.capacityBytes(), free, 0,
                drive.fileLimitBytes() == 0 ? OptionalLong.empty() : OptionalLong.of(drive.fileLimitBytes()), faults.rate(drive.id(), rate(drive.writeRateBytes())), Set.of(drive.diskSerial())));
        }
        out.sort(Comparator.comparing(Destination::name));
        return out;
    }

    @Override
    public Optional<PastWork> pastWork() {
        return clock instanceof MovedClock moved ? Optional.of(new PastImages(this, disks, drives, once, moved)) : Optional.empty();
    }

    /** Makes the office's disks and captures every one once, so that it starts quickly later, with a past. */
    public static void preparePast(Path home, Path once, Clock clock) throws IOException {
        PastImages.prepare(new SimulatedOffice(home, once, clock, 1).disks, once, clock);
    }

    /** Beside a drive's folder: how much of what always lay there is images of the past. */
    private long pastBytes(String driveId) throws IOException {
        Path note = drives.resolve(driveId + PAST_SUFFIX);
        return Files.exists(note) ? Long.parseLong(Files.readString(note).strip()) : 0;
    }

    void layAsNote(String driveId, String name, long scale, long bytes) throws IOException {
        Files.writeString(drives.resolve(driveId).resolve(name + SCALE_SUFFIX), scale + "\n");
        Files.writeString(drives.resolve(driveId + PAST_SUFFIX), pastBytes(driveId) + bytes + "\n");
    }

    long scaleOfImage(String driveId, String name) throws IOException {
        return scaleOf(drives.resolve(driveId).resolve(name)).factor();
    }

    private static long imageBytes(Path drive) throws IOException {
        long sum = 0;
        try (Stream<Path> entries = Files.list(drive)) {
            for (Path image : entries.filter(Files::isDirectory).toList()) {
                sum += image.endsWith(Trash.FOLDER) ? trashBytes(image, drive) : Folders.bytes(image) * scaleOf(image).factor();
            }
        }
        return sum;
    }

    /** What was released still takes its room; its note went with it, or lies where it lay. */
    private static long trashBytes(Path trash, Path drive) throws IOException {
        long sum = 0;
        try (Stream<Path> releases = Files.list(trash)) {
            for (Path release : releases.toList()) {
                try (Stream<Path> things = Files.list(release)) {
                    for (Path thing : things.filter(Files::isDirectory).toList()) {
                        boolean own = Files.exists(thing.resolveSibling(thing.getFileName() + SCALE_SUFFIX));
                        sum += Folders.bytes(thing) * scaleOf(own ? thing : drive.resolve(thing.getFileName())).factor();
                    }
                }
            }
        }
        return sum;
    }

    private StandInDisk disk(String id) throws IOException {
        StandInDisk disk = MarrowbySurveyOffice.DISKS.stream().filter(d -> d.id().equals(id)).findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id,
            "The disk is not attached. Attach it and try again.").asException());
        if (faults.off(disk.computer())) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, id, disk.computer() + " is switched off, so its disks are not attached. Start it from rescue media and try again.").asException();
        }
        return disk;
    }

    /** One that is started again comes up with its own system, and is there as before. */
    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        faults.power(disk(diskId).computer(), action == Afterwards.OFF);
    }

    private boolean attached(StandInDrive drive) {
        return drive.attached() && !faults.unplugged(drive.id());
    }

    private StandInDrive drive(String id) throws IOException {
        return MarrowbySurveyOffice.DRIVES.stream().filter(d -> d.id().equals(id) && attached(d)).findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id,
            "The destination is not attached. Attach it and try again.").asException());
    }

    /** By the note beside an image, finished or not; true size without one. */
    private static Scale scaleOf(Path image) throws IOException {
        String name = image.getFileName().toString();
        Path note = image.resolveSibling((name.endsWith(ImageName.PARTIAL) ? name.substring(0, name.length() - ImageName.PARTIAL.length()) : name) + SCALE_SUFFIX);
        return new Scale(Files.exists(note) ? Long.parseLong(Files.readString(note).strip()) : 1);
    }

    private Path bag(ImageAt image) throws IOException {
        Path folder = drives.resolve(drive(image.destinationId()).id());
        return Desk.bag(folder, folder, image);
    }

    private PacedWatch paced(Watch watch, Scale scale, long readRate, StandInDrive drive) {
        return new PacedWatch(watch, scale, readRate, () -> faults.rate(drive.id(), rate(drive.writeRateBytes())), faults, drive.id());
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
            return new SiteEstimate(new Scale(disk.scale()).of(real.size()), real.compressRateBytes() * disk.scale(), real.compressRateBytes(), OptionalLong.empty());
        }
    }

    @Override
    public SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        StandInDrive drive = drive(destinationId);
        // written before the image, so that an image never lies there without it; a taken name keeps its own and is refused below
        Path note = drives.resolve(drive.id()).resolve(ImageName.parse(name).text() + SCALE_SUFFIX);
        if (isFree(drive, name)) {
            Files.writeString(note, disk.scale() + "\n");
        }
        OptionalLong split = storage.splitBytes().isEmpty() && !storage.passphrase().isNone() ? OptionalLong.of(BagWriter.ENCRYPTED_SPLIT) : storage.splitBytes();
        OptionalLong realSplit = split.isPresent() ? OptionalLong.of(Math.max(BagWriter.MIN_SPLIT, split.getAsLong() / disk.scale())) : OptionalLong.empty();
        Storage real = new Storage(storage.codec(), storage.level(), realSplit, storage.choice(), storage.passphrase());
        return making(disk, drive, name, watch, (source, folder, paced) -> Desk.capture(source, disk.identity().withSize(source.sizeBytes()), real, name, folder, clock, paced));
    }

    @Override
    public SiteImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        return making(disk, drive(unfinished.destinationId()), unfinished.name(), watch, (source, folder, paced) -> Desk.carryOn(source,
            disk.identity().withSize(source.sizeBytes()), folder, unfinished.name(), unfinished.passphrase(), clock, paced));
    }

    private interface Making {
        CaptureResult of(BlockSource source, Path folder, Watch paced) throws IOException;
    }

    private SiteImage making(StandInDisk disk, StandInDrive drive, String name, Watch watch, Making making) throws IOException {
        Path folder = drives.resolve(drive.id());
        Scale scale = new Scale(disk.scale());
        try (BlockSource source = open(disk)) {
            CaptureResult result = making.of(source, folder, paced(watch, scale, rate(disk.readRateBytes()), drive));
            return scale.of(Desk.made(result, drive.name() + ", folder " + name));
        } catch (IOException failed) {
            if (faults.unplugged(drive.id())) {
                faults.tearOff(folder.resolve(name + ImageName.PARTIAL));
            }
            if (isFree(drive, name)) {
                Files.deleteIfExists(folder.resolve(name + SCALE_SUFFIX));
            }
            throw named(failed, folder, drive);
        }
    }

    /** People know the drive by its name, not by a folder. */
    private static IOException named(IOException failed, Path folder, StandInDrive drive) {
        if (failed instanceof FaultException known) {
            Fault f = known.fault();
            return new Fault(f.kind(), f.device().replace(folder.toString(), drive.name()), f.offsetBytes(), f.expected(), f.found(), f.sentence().replace(folder.toString(), drive.name())).asException();
        }
        return failed;
    }

    /** Whether neither an image nor an unfinished capture has the name. */
    private boolean isFree(StandInDrive drive, String name) {
        Path folder = drives.resolve(drive.id());
        return !Files.exists(folder.resolve(name)) && !Files.exists(folder.resolve(name + ImageName.PARTIAL));
    }

    @Override
    public List<SiteUnfinished> unfinished(String destinationId) throws IOException {
        Optional<StandInDrive> drive = MarrowbySurveyOffice.DRIVES.stream().filter(d -> d.id().equals(destinationId) && attached(d)).findFirst();
        List<SiteUnfinished> out = new ArrayList<>();
        if (drive.isPresent()) {
            for (SiteUnfinished real : Desk.unfinished(drives.resolve(destinationId))) {
                long factor = scaleOf(drives.resolve(destinationId).resolve(real.name())).factor();
                out.add(new SiteUnfinished(real.name(), real.disk().withSize(real.disk().sizeBytes() * factor), real.begunAt(), real.storedBytes() * factor, real.doneShare(),
                    real.encrypted(), new Storage(real.storage().codec(), real.storage().level(), new Scale(factor).of(real.storage().splitBytes()), real.storage().choice())));
            }
        }
        return out;
    }

    @Override
    public void discard(String destinationId, String name) throws IOException {
        StandInDrive drive = drive(destinationId);
        Unfinished.open(drives.resolve(drive.id()), ImageName.parse(name)).discard();
        if (isFree(drive, name)) {
            Files.deleteIfExists(drives.resolve(drive.id()).resolve(name + SCALE_SUFFIX));
        }
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drive(image.destinationId());
        Path bag = bag(image);
        Scale scale = scaleOf(bag);
        return scale.of(Desk.check(bag, image.passphrase(), level, scratch, paced(watch, scale, rate(drive.writeRateBytes()), drive)));
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        Path bag = bag(image);
        return scaleOf(bag).of(Desk.facts(bag));
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Path bag = bag(image);
        StandInDrive to = drive(toDestinationId);
        Scale scale = scaleOf(bag);
        Path note = drives.resolve(to.id()).resolve(image.name() + SCALE_SUFFIX);
        if (isFree(to, image.name())) {
            Files.writeString(note, scale.factor() + "\n");
        }
        try {
            return scale.of(BagCopy.run(bag, drives.resolve(to.id()), paced(watch, scale, rate(to.writeRateBytes()), to)));
        } finally {
            if (isFree(to, image.name())) {
                Files.deleteIfExists(note);
            }
        }
    }

    @Override
    public Repair.Mended mend(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drive(damaged.destinationId());
        Path bag = bag(damaged);
        Scale scale = scaleOf(bag);
        Repair.Mended mended = Desk.mend(bag, damaged.passphrase(), bag(sound), level, paced(watch, scale, rate(drive.writeRateBytes()), drive));
        return new Repair.Mended(mended.writtenBytes() * scale.factor(), scale.of(mended.check()));
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        Path root = drives.resolve(drive(destinationId).id());
        return new Shelf(root, root, image -> Stream.of(image.resolveSibling(image.getFileName() + SCALE_SUFFIX)).filter(Files::exists).toList());
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        Path root = drives.resolve(drive(destinationId).id());
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
        return image.kind() == ElsewhereImage.Kind.GRANARY ? scaleOf(folder.resolve(image.name())) : folder.equals(root.toRealPath()) ? new Scale(1) : scaleOf(folder);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        StandInDrive drive = drive(destinationId);
        Path root = drives.resolve(drive.id());
        Scale scale = scaleOf(root, image);
        return scale.of(ElsewhereCheck.run(root, scale.real(image), level, paced(watch, scale, rate(drive.writeRateBytes()), drive)));
    }

    @Override
    public Optional<Switchboard> switchboard() {
        return Optional.of(faults);
    }
}
