package app.granary.engine.site;

import app.granary.core.destination.Destination;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.preflight.Power;
import app.granary.core.proof.ProofLevel;
import app.granary.core.plan.Afterwards;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.copy.BagCopy;
import app.granary.engine.copy.Repair;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.ReadTest;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * This machine: its block devices as {@code lsblk} tells them, raw disk image files in one folder, and as destinations one folder of
 * Granary's own and every drive that is mounted apart from the system.
 */
public final class MachineSite implements Site {
    private static final Set<String> FAT = Set.of("vfat", "fat", "msdos");
    private static final long FAT_FILE_LIMIT = 4_294_967_295L;
    private static final Duration SWITCHING = Duration.ofSeconds(20);
    private static final long RECENT_NANOS = 1_500_000_000L;
    /** Images in Granary's own folder leave its database, its copies and rehearsals this much of their common drive. */
    private static final long OWN_ROOM = 500_000_000;
    private static final String FOLDER_ON_DRIVE = "granary-images";

    private final String name;
    private final Path rawFiles;
    private final Path images;
    private final Path scratch;
    private final KeptRoom kept;
    private final Clock clock;
    /** They do not change while the machine runs. */
    private final ComputerFacts facts = ThisMachine.facts();
    private volatile Listed listed;
    private final Set<String> types;
    private final Map<String, OptionalLong> readRates = new ConcurrentHashMap<>();

    /**
     * @param rawFiles folder with raw disk image files, made when missing
     * @param images   folder that is always a destination, made when missing
     * @param scratch  where rehearsals restore to; made when first needed
     */
    public MachineSite(String name, Path rawFiles, Path images, Path scratch, Clock clock) throws IOException {
        this(name, rawFiles, images, scratch, clock, Attachments.DISKS);
    }

    /** @param types kinds of devices that count as disks, as lsblk calls them: {@code "disk"}, {@code "loop"}, {@code "mpath"} */
    public MachineSite(String name, Path rawFiles, Path images, Path scratch, Clock clock, Set<String> types) throws IOException {
        this(name, rawFiles, images, scratch, clock, types, OWN_ROOM);
    }

    /** @param keptBytes of the drive that holds the images folder, which no image and no rehearsal takes */
    MachineSite(String name, Path rawFiles, Path images, Path scratch, Clock clock, Set<String> types, long keptBytes) throws IOException {
        this.types = Set.copyOf(types);
        this.name = name;
        this.rawFiles = Files.createDirectories(rawFiles);
        this.images = Files.createDirectories(images);
        this.scratch = scratch;
        this.clock = clock;
        this.kept = new KeptRoom(this.images, keptBytes);
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public String simulation() {
        return "";
    }

    /**
     * What was attached a moment ago: pages ask often, and each asking starts a program. What is written goes by what is attached at that
     * moment.
     */
    private List<Lsblk.Device> recentDevices() throws IOException {
        Listed known = listed;
        if (known == null || System.nanoTime() - known.atNanos > RECENT_NANOS) {
            known = new Listed(listedOrNone(), System.nanoTime());
            listed = known;
        }
        return known.devices;
    }

    /** Raw files are at hand even where devices cannot be told; nothing is written by this list. */
    private static List<Lsblk.Device> listedOrNone() throws IOException {
        try {
            return Lsblk.devices();
        } catch (FaultException cannotTell) {
            return List.of();
        }
    }

    private record Listed(List<Lsblk.Device> devices, long atNanos) {
    }

    /** Raw files in a folder of their own stand for disks that may be overwritten; devices are those that are attached. */
    @Override
    public Workbench workbench() {
        return new MachineWorkbench(this, rawFiles.resolveSibling("targets"), scratch, types);
    }

    RawSource openDisk(String diskId) throws IOException {
        return RawSource.open(require(diskId).path);
    }

    /** As long as it is read for a copy: a disk in use is not copied either. */
    DeviceHold holdDisk(String diskId) throws IOException {
        return BlockDevices.hold(require(diskId).path);
    }

    @Override
    public String inUse(String diskId) throws IOException {
        return BlockDevices.heldBy(require(diskId).path);
    }

    private record Found(SiteDisk disk, Path path) {
    }

    private List<Found> found() throws IOException {
        List<Found> out = new ArrayList<>();
        for (Attachments.Attached each : Attachments.of(recentDevices(), types).all()) {
            SeenDisk seen = each.seen();
            out.add(new Found(new SiteDisk(seen.id(), seen.attachment(), seen.name(), seen.identity(), each.device().bus(), seen.reached(),
                Links.rate(each.device().bus())), Path.of(each.device().path())));
        }
        try (Stream<Path> files = Files.list(rawFiles)) {
            for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
                String name = file.getFileName().toString();
                DiskIdentity identity = new DiskIdentity("raw image file", "", Files.size(file));
                out.add(new Found(SiteDisk.lasting(Attachments.id(name), name, identity, "file", Links.NVME), file));
            }
        }
        return out;
    }

    private Found require(String diskId) throws IOException {
        return found().stream().filter(f -> f.disk.id().equals(diskId)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, diskId,
                "The disk is not attached to this machine. Attach it and try again.").asException());
    }

    @Override
    public List<SiteComputer> computers() throws IOException {
        return List.of(new SiteComputer("this-machine", name, "this machine", "", facts, found().stream().map(Found::disk).toList()));
    }

    private record Place(Destination destination, Path folder) {
    }

    private List<Place> places(List<Lsblk.Device> devices) throws IOException {
        List<Place> out = new ArrayList<>();
        out.add(place("granary-folder", "Granary's folder", images.toString(), images, devices));
        for (Lsblk.Device disk : devices) {
            for (Lsblk.Device device : disk.tree()) {
                for (String point : device.mountPoints()) {
                    if (point.startsWith("/media/") || point.startsWith("/mnt") || point.startsWith("/run/media/")) {
                        String label = device.label().isEmpty() ? Path.of(point).getFileName().toString() : device.label();
                        out.add(place(driveId(device, point), label, "mounted at " + point, Path.of(point), devices));
                    }
                }
            }
        }
        Set<String> seen = new HashSet<>();
        return out.stream().filter(place -> seen.add(place.destination.id())).toList();
    }

    /**
     * By the file system's own identity, so that a drive mounted elsewhere, or on another connector, is the same destination; by device and
     * place without one.
     */
    static String driveId(Lsblk.Device device, String point) {
        return Attachments.id(device.uuid().isEmpty() ? device.path() + point : "fs-" + device.uuid());
    }

    private Place place(String id, String name, String where, Path folder, List<Lsblk.Device> devices) throws IOException {
        FileStore store = Files.getFileStore(folder);
        List<Lsblk.Device> below = devices.stream().filter(d -> d.tree().stream().anyMatch(part -> part.path().equals(store.name())))
            .toList();
        Set<String> serials = below.stream().map(Lsblk.Device::serialOrAttachment).collect(Collectors.toSet());
        OptionalLong limit = FAT.contains(store.type()) ? OptionalLong.of(FAT_FILE_LIMIT) : OptionalLong.empty();
        long rate = below.isEmpty() ? Links.SATA : Links.rate(below.get(0).bus());
        return new Place(new Destination(id, name, where, true, Files.isWritable(folder) && !store.isReadOnly(), store.getTotalSpace(),
            kept.isFor(folder) ? kept.freeBytes() : store.getUsableSpace(), 0,
            limit, rate, serials), folder);
    }

    @Override
    public Power power() throws IOException {
        return PowerSupplies.read(Path.of("/sys/class/power_supply"));
    }

    @Override
    public List<Destination> destinations() throws IOException {
        return places(recentDevices()).stream().map(Place::destination).sorted(Comparator.comparing(Destination::name)).toList();
    }

    private Place require(List<Lsblk.Device> devices, String destinationId) throws IOException {
        return places(devices).stream().filter(p -> p.destination.id().equals(destinationId)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED,
                destinationId, "The destination is not attached to this machine. Attach it and try again.").asException());
    }

    private Path folder(String destinationId) throws IOException {
        return Files.createDirectories(imagesIn(require(Lsblk.devices(), destinationId)));
    }

    private Path imagesIn(Place place) {
        return place.folder.equals(images) ? images : place.folder.resolve(FOLDER_ON_DRIVE);
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        try (RawSource source = RawSource.open(require(diskId).path)) {
            return DiskSurvey.of(source, choice);
        }
    }

    @Override
    public SiteEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(require(diskId).path)) {
            SiteEstimate estimate = Desk.estimate(source, storage, goal, watch);
            return estimate.reading(readRate(diskId, source, storage));
        }
    }

    /** Tested once: what was read a moment ago comes from memory, and says nothing of the disk. */
    private OptionalLong readRate(String diskId, RawSource source, Storage storage) throws IOException {
        OptionalLong known = readRates.get(diskId);
        if (known == null) {
            known = ReadTest.rate(source, DiskSurvey.of(source, storage.choice()).toRead());
            readRates.put(diskId, known);
        }
        return known;
    }

    @Override
    public SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        Found found = require(diskId);
        Path folder = folder(destinationId);
        try (DeviceHold held = BlockDevices.hold(found.path); RawSource source = RawSource.open(found.path)) {
            CaptureResult result = Desk.capture(source, found.disk.identity(), storage, name, folder, clock, kept.over(watch, folder));
            return Desk.made(result, result.bag().toString());
        }
    }

    @Override
    public List<SiteUnfinished> unfinished(String destinationId) throws IOException {
        Optional<Place> place = places(recentDevices()).stream().filter(p -> p.destination.id().equals(destinationId)).findFirst();
        return place.isEmpty() ? List.of() : Desk.unfinished(imagesIn(place.get()));
    }

    @Override
    public SiteImage carryOn(String diskId, ImageAt unfinished, Watch watch) throws IOException {
        Found found = require(diskId);
        Path folder = folder(unfinished.destinationId());
        try (DeviceHold held = BlockDevices.hold(found.path); RawSource source = RawSource.open(found.path)) {
            CaptureResult result = Desk.carryOn(source, found.disk.identity(), folder, unfinished.name(), unfinished.passphrase(), clock,
                kept.over(watch, folder));
            return Desk.made(result, result.bag().toString());
        }
    }

    @Override
    public void discard(String destinationId, String name) throws IOException {
        Unfinished.discard(folder(destinationId), ImageName.parse(name));
    }

    @Override
    public void sweep() throws IOException {
        Desk.sweep(scratch);
    }

    /**
     * The disks at hand are this machine's, so it is this machine that goes; with a minute's notice, which {@code shutdown -c} takes back.
     */
    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        require(diskId);
        SystemTool.Said said = SystemTool.run(List.of("shutdown", action == Afterwards.OFF ? "-h" : "-r", "+1"), true, SWITCHING,
            "Do it by hand.");
        if (said.exit() != 0) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, name,
                "This machine could not be switched off or started again: " + said.text() + ". Do it by hand.").asException();
        }
    }

    Path bag(ImageAt image) throws IOException {
        Place place = require(Lsblk.devices(), image.destinationId());
        return Desk.bag(place.folder, imagesIn(place), image);
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        Place place = require(Lsblk.devices(), destinationId);
        return new Shelf(place.folder, imagesIn(place), image -> List.of());
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        Place place = require(recentDevices(), destinationId);
        return Desk.elsewhere(place.folder, imagesIn(place), folder, watch);
    }

    @Override
    public ElsewhereCheck.Result check(String destinationId, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return ElsewhereCheck.run(require(Lsblk.devices(), destinationId).folder, image, level, watch);
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        return Desk.facts(bag(image));
    }

    @Override
    public CheckOutcome copy(ImageAt image, String toDestinationId, Watch watch) throws IOException {
        Path folder = folder(toDestinationId);
        return BagCopy.run(bag(image), folder, kept.over(watch, folder));
    }

    @Override
    public Repair.Mended mend(ImageAt damaged, ImageAt sound, ProofLevel level, Watch watch) throws IOException {
        return Desk.mend(bag(damaged), damaged.passphrase(), bag(sound), level, watch);
    }

    @Override
    public CheckOutcome check(ImageAt image, ProofLevel level, Watch watch) throws IOException {
        Path bag = bag(image);
        return Desk.check(bag, image.passphrase(), level, Files.createDirectories(scratch),
            level == ProofLevel.REHEARSED ? rehearsing(bag, watch) : watch);
    }

    /** @throws FaultException of kind NO_ROOM when what the disk held does not fit beside Granary's own data */
    Watch rehearsing(Path bag, Watch watch) throws IOException {
        if (kept.isFor(Files.createDirectories(scratch))) {
            kept.require(Bag.open(bag).content().description().usedBytes());
        }
        return kept.over(watch, scratch);
    }
}
