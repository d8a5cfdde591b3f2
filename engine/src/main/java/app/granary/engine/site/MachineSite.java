package app.granary.engine.site;

import app.granary.core.destination.Destination;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.bag.ImageName;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * This machine: its block devices as {@code lsblk} tells them, raw disk image files in one folder, and as destinations one folder of
 * Granary's own and every drive that is mounted apart from the system.
 */
public final class MachineSite implements Site {
    private static final Set<String> FAT = Set.of("vfat", "fat", "msdos");
    private static final long FAT_FILE_LIMIT = 4_294_967_295L;
    private static final String FOLDER_ON_DRIVE = "granary-images";

    private final String name;
    private final Path rawFiles;
    private final Path images;
    private final Clock clock;

    /**
     * @param rawFiles folder with raw disk image files, made when missing
     * @param images   folder that is always a destination, made when missing
     */
    public MachineSite(String name, Path rawFiles, Path images, Clock clock) throws IOException {
        this.name = name;
        this.rawFiles = Files.createDirectories(rawFiles);
        this.images = Files.createDirectories(images);
        this.clock = clock;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public String simulation() {
        return "";
    }

    private record Found(SiteDisk disk, Path path) {
    }

    private List<Found> found() throws IOException {
        List<Found> out = new ArrayList<>();
        for (Lsblk.Device device : Lsblk.devices()) {
            if (device.type().equals("disk") && device.sizeBytes() > 0 && !device.path().startsWith("/dev/zram")) {
                DiskIdentity identity = new DiskIdentity(device.model(), device.serial(), device.sizeBytes());
                String id = id(device.serial().isEmpty() ? device.path() : device.model() + "/" + device.serial() + "/" + device.sizeBytes());
                out.add(new Found(new SiteDisk(id, device.path(), identity, device.bus(), Links.rate(device.bus())), Path.of(device.path())));
            }
        }
        try (Stream<Path> files = Files.list(rawFiles)) {
            for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
                DiskIdentity identity = new DiskIdentity("raw image file", "", Files.size(file));
                out.add(new Found(new SiteDisk(id(file.getFileName().toString()), file.getFileName().toString(), identity, "file", Links.NVME), file));
            }
        }
        return out;
    }

    private static String id(String text) {
        return HexFormat.of().toHexDigits(text.hashCode()) + "-" + text.replaceAll("[^A-Za-z0-9]+", "-").replaceAll("^-|-$", "").toLowerCase(java.util.Locale.ROOT);
    }

    private Found require(String diskId) throws IOException {
        return found().stream().filter(f -> f.disk.id().equals(diskId)).findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, diskId,
            "The disk is not attached to this machine. Attach it and try again.").asException());
    }

    @Override
    public List<SiteComputer> computers() throws IOException {
        return List.of(new SiteComputer("this-machine", name, "this machine", "", ThisMachine.facts(), found().stream().map(Found::disk).toList()));
    }

    private record Place(Destination destination, Path folder) {
    }

    private List<Place> places() throws IOException {
        List<Place> out = new ArrayList<>();
        List<Lsblk.Device> devices = Lsblk.devices();
        out.add(place("granary-folder", "Granary's folder", images.toString(), images, devices));
        for (Lsblk.Device disk : devices) {
            for (Lsblk.Device device : disk.tree()) {
                for (String point : device.mountPoints()) {
                    if (point.startsWith("/media/") || point.startsWith("/mnt") || point.startsWith("/run/media/")) {
                        String label = device.label().isEmpty() ? Path.of(point).getFileName().toString() : device.label();
                        out.add(place(id(device.path() + point), label, "mounted at " + point, Path.of(point), devices));
                    }
                }
            }
        }
        return out;
    }

    private static Place place(String id, String name, String where, Path folder, List<Lsblk.Device> devices) throws IOException {
        FileStore store = Files.getFileStore(folder);
        List<Lsblk.Device> below = devices.stream().filter(d -> d.tree().stream().anyMatch(part -> part.path().equals(store.name()))).toList();
        Set<String> serials = below.stream().map(MachineSite::serialOrPath).collect(Collectors.toSet());
        OptionalLong limit = FAT.contains(store.type()) ? OptionalLong.of(FAT_FILE_LIMIT) : OptionalLong.empty();
        long rate = below.isEmpty() ? Links.SATA : Links.rate(below.get(0).bus());
        return new Place(new Destination(id, name, where, true, Files.isWritable(folder) && !store.isReadOnly(), store.getTotalSpace(), store.getUsableSpace(), 0,
            limit, rate, serials), folder);
    }

    private static String serialOrPath(Lsblk.Device device) {
        return device.serial().isEmpty() ? device.path() : device.serial();
    }

    @Override
    public List<Destination> destinations() throws IOException {
        return places().stream().map(Place::destination).sorted(Comparator.comparing(Destination::name)).toList();
    }

    private Path folder(String destinationId) throws IOException {
        Place place = places().stream().filter(p -> p.destination.id().equals(destinationId)).findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED,
            destinationId, "The destination is not attached to this machine. Attach it and try again.").asException());
        return place.folder.equals(images) ? images : Files.createDirectories(place.folder.resolve(FOLDER_ON_DRIVE));
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        try (RawSource source = RawSource.open(require(diskId).path)) {
            return DiskSurvey.of(source, choice);
        }
    }

    @Override
    public SiteEstimate estimate(String diskId, Storage storage, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(require(diskId).path)) {
            return Desk.estimate(source, storage, watch);
        }
    }

    @Override
    public SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        Found found = require(diskId);
        Path folder = folder(destinationId);
        try (RawSource source = RawSource.open(found.path)) {
            BlockDevices.Identified device = BlockDevices.identify(found.path, source);
            device.requireIdle();
            CaptureResult result = Desk.capture(source, found.disk.identity(), storage, name, folder, clock, watch);
            return new SiteImage(result.bag().toString(), result.storedBytes(), result.rawBytes(), result.usedBytes(), result.check().orElseThrow());
        }
    }

    @Override
    public CheckOutcome check(String destinationId, String name, CheckDepth depth, Watch watch) throws IOException {
        return Verification.run(folder(destinationId).resolve(ImageName.parse(name).text()), depth, watch);
    }
}
