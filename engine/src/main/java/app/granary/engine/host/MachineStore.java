package app.granary.engine.host;

import app.granary.core.destination.Destination;
import app.granary.core.disk.BlockSource;
import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.elsewhere.ElsewhereDisk;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.elsewhere.ElsewhereScan;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Sysfs;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;

/** One folder of Granary's own, and every drive that is mounted apart from the system. */
final class MachineStore implements ImageStore, LocalFolders {
    private static final Set<String> FAT = Set.of("vfat", "fat", "msdos");
    private static final long FAT_FILE_LIMIT = 4_294_967_295L;
    private static final String FOLDER_ON_DRIVE = "granary-images";

    private final MachineDevices devices;
    private final Optional<Path> images;
    private final List<Path> drives;
    private final RemoteFolders remote;
    private final KeptRoom kept;
    private final List<Path> named;
    private final Patience patience = new Patience(Duration.ofSeconds(3));

    /**
     * @param images a folder that exists, and is always a destination; empty for none of the machine's own
     * @param drives folders that stand for drives
     * @param named  folders the office names: they, and what is mounted in them, are destinations
     */
    MachineStore(MachineDevices devices, Optional<Path> images, List<Path> drives, RemoteFolders remote, KeptRoom kept, List<Path> named) {
        this.devices = devices;
        this.images = images;
        this.drives = List.copyOf(drives);
        this.remote = remote;
        this.kept = kept;
        this.named = List.copyOf(named);
    }

    private record Place(Destination destination, Path folder) {
    }

    /** Where images lie: on a destination of this machine, or of one that serves it. */
    private record Where(Path root, Path images) {
    }

    private List<Place> places(List<Lsblk.Device> all) throws IOException {
        List<Place> out = new ArrayList<>();
        if (images.isPresent()) {
            out.add(place(OWN_FOLDER, "Granary's folder", images.get().toString(), images.get(), all));
        }
        for (Path drive : drives) {
            // it stands for a drive, so it shares no disk with anything
            out.add(place(Attachments.id(devices.machine() + drive), drive.getFileName().toString(), drive.toString(), drive, List.of()));
        }
        for (Lsblk.Device disk : devices.hasOwn() ? all : List.<Lsblk.Device>of()) {
            for (Lsblk.Device device : disk.tree()) {
                for (String point : device.mountPoints()) {
                    if (point.startsWith("/media/") || point.startsWith("/mnt") || point.startsWith("/run/media/")) {
                        String label = device.label().isEmpty() ? Path.of(point).getFileName().toString() : device.label();
                        out.add(place(driveId(device, point), label, "mounted at " + point, Path.of(point), all));
                    }
                }
            }
        }
        if (devices.hasOwn()) {
            mounted(out, all);
        }
        Set<String> seen = new HashSet<>();
        return out.stream().filter(place -> seen.add(place.destination.id())).toList();
    }

    /** Network folders wherever they are mounted, and folders the office names, with what is mounted in them. */
    private void mounted(List<Place> out, List<Lsblk.Device> all) throws IOException {
        List<Mounts.Mount> mounts = Mounts.now();
        for (Mounts.Mount each : mounts) {
            boolean wanted = each.elsewhere() || each.holdsFiles() && named.stream().anyMatch(each.point()::startsWith);
            if (wanted && out.stream().noneMatch(place -> place.folder.equals(each.point()))) {
                patience.ask(each.point().toString(), () -> mounted(each, all)).flatMap(found -> found).ifPresent(out::add);
            }
        }
        for (Path folder : named) {
            if (Files.isDirectory(folder) && mounts.stream().noneMatch(each -> each.point().equals(folder))) {
                out.add(place(Attachments.id("folder-" + devices.machine() + folder), String.valueOf(folder.getFileName()),
                    folder.toString(),
                    folder, all));
            }
        }
    }

    /** @return empty for what is mounted over a file: nothing can be put into it */
    private Optional<Place> mounted(Mounts.Mount mount, List<Lsblk.Device> all) throws IOException {
        return Files.isDirectory(mount.point()) ? Optional.of(place(Attachments.id("mount-" + mount.identity()), mount.label(),
            mount.where(), mount.point(), all, mount.elsewhere() ? Links.GIGABIT : Links.SATA)) : Optional.empty();
    }

    /**
     * By the file system's own identity, so that a drive mounted elsewhere, or on another connector, is the same destination; by device and
     * place without one.
     */
    static String driveId(Lsblk.Device device, String point) {
        return Attachments.id(device.uuid().isEmpty() ? device.path() + point : "fs-" + device.uuid());
    }

    private Place place(String id, String name, String where, Path folder, List<Lsblk.Device> all) throws IOException {
        return place(id, name, where, folder, all, Links.SATA);
    }

    /** @param usual bytes a second where no device of this machine is known below it */
    private Place place(String id, String name, String where, Path folder, List<Lsblk.Device> all, long usual) throws IOException {
        FileStore store = Files.getFileStore(folder);
        List<Lsblk.Device> below = all.stream().filter(each -> each.has(store.name())).toList();
        Set<String> serials = below.stream().map(Lsblk.Device::serialOrAttachment).collect(Collectors.toSet());
        OptionalLong limit = FAT.contains(store.type()) ? OptionalLong.of(FAT_FILE_LIMIT) : OptionalLong.empty();
        long rate = below.isEmpty() ? usual : Links.rate(below.get(0).bus());
        return new Place(new Destination(id, name, where, true, Files.isWritable(folder) && !store.isReadOnly(), store.getTotalSpace(),
            kept.isFor(folder) ? kept.freeBytes() : store.getUsableSpace(), 0,
            limit, rate, serials).onPartition(below.size() == 1 ? Sysfs.partition(Path.of(store.name())) : OptionalInt.empty()), folder);
    }

    /** Number of the partition a destination is, where it lies on that very disk; empty otherwise. */
    OptionalInt partitionOn(MachineDevices.Found disk, String destinationId) throws IOException {
        Optional<Place> place = places(Lsblk.devices()).stream().filter(each -> each.destination.id().equals(destinationId)).findFirst();
        return place.isPresent() && BlockDevices.liesOn(place.get().folder, disk.path()) ? place.get().destination.partition()
            : OptionalInt.empty();
    }

    @Override
    public List<Destination> destinations() throws IOException {
        return places(devices.recentDevices()).stream().map(Place::destination).sorted(Comparator.comparing(Destination::name)).toList();
    }

    private Place require(List<Lsblk.Device> all, String destinationId) throws IOException {
        return places(all).stream().filter(p -> p.destination.id().equals(destinationId)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED,
                destinationId, "The destination is not attached to this machine. Attach it and try again.").asException());
    }

    private Where where(String destinationId) throws IOException {
        Optional<RemoteFolders.Folder> served = remote.folder(destinationId);
        if (served.isPresent()) {
            return new Where(served.get().root(), served.get().images());
        }
        Place place = require(Lsblk.devices(), destinationId);
        return new Where(place.folder, imagesIn(place));
    }

    /** Work that writes into a folder, which leaves the last room of Granary's own drive free. */
    Watch keptOver(Watch watch, Path folder) throws IOException {
        return kept.over(watch, Files.createDirectories(folder));
    }

    /** Where images are written onto a destination. */
    Path imagesOn(String destinationId) throws IOException {
        Path there = where(destinationId).images;
        return Files.isDirectory(there) ? there : Files.createDirectories(there);
    }

    private Path imagesIn(Place place) {
        return place.folder.resolve(imagesName(place.folder));
    }

    private String imagesName(Path folder) {
        return images.filter(folder::equals).isPresent() ? "" : FOLDER_ON_DRIVE;
    }

    /** A file on another machine, by the name it is lent under; empty for a name that is of none. */
    Optional<Path> lentFile(String id) {
        return remote.folder(id).map(RemoteFolders.Folder::images);
    }

    Path bag(ImageAt image) throws IOException {
        Where where = where(image.destinationId());
        return ImageWork.bag(where.root, where.images, image);
    }

    @Override
    public LocalFolders.Folder folder(String destinationId) throws IOException {
        Path root = require(Lsblk.devices(), destinationId).folder;
        return new LocalFolders.Folder(root, imagesName(root));
    }

    @Override
    public void requireRoom(LocalFolders.Folder folder) throws IOException {
        if (kept.isFor(folder.root())) {
            kept.require(1);
        }
    }

    @Override
    public Shelf shelf(String destinationId) throws IOException {
        Place place = require(Lsblk.devices(), destinationId);
        return new FolderShelf(place.folder, imagesIn(place), image -> List.of());
    }

    @Override
    public ImageFacts facts(ImageAt image) throws IOException {
        return ImageWork.facts(bag(image));
    }

    @Override
    public List<HostUnfinished> unfinished(String destinationId) throws IOException {
        Optional<Place> place = places(devices.recentDevices()).stream().filter(p -> p.destination.id().equals(destinationId)).findFirst();
        return place.isEmpty() ? List.of() : ImageWork.unfinished(imagesIn(place.get()));
    }

    @Override
    public void discard(String destinationId, String name) throws IOException {
        Unfinished.discard(imagesOn(destinationId), ImageName.parse(name));
    }

    @Override
    public ElsewhereImage kept(String destinationId, String folder, String name) throws IOException {
        return ElsewhereScan.kept(root(destinationId), folder, name);
    }

    @Override
    public ElsewhereScan.Found elsewhere(String destinationId, String folder, Watch watch) throws IOException {
        Place place = require(devices.recentDevices(), destinationId);
        return ImageWork.elsewhere(place.folder, imagesIn(place), folder, watch);
    }

    /**
     * A folder with room, on a drive.
     *
     * @param name of the destination
     */
    record ScratchPlace(String name, Path folder, long freeBytes) {
    }

    /** Destinations that can be written, but for those on one disk, and those that take no long file. */
    List<ScratchPlace> scratchPlaces(String withoutSerial) throws IOException {
        return places(devices.recentDevices()).stream()
            .filter(each -> each.destination.writable() && !each.destination.diskSerials().contains(withoutSerial)
                && each.destination.fileSizeLimitBytes().isEmpty())
            .map(each -> new ScratchPlace(each.destination.name(), each.folder, each.destination.freeBytes())).toList();
    }

    /** An image that other tools made, as a disk to be looked into. */
    BlockSource disk(ImageAt image, Path scratch) throws IOException {
        return ElsewhereDisk.forLooking(root(image.destinationId()), image.elsewhere().orElseThrow(), Files.createDirectories(scratch));
    }

    /** The root of a destination, for images that other tools made. */
    Path root(String destinationId) throws IOException {
        return require(Lsblk.devices(), destinationId).folder;
    }
}
