package app.granary.engine.host;

import app.granary.core.fault.Fault;
import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * This machine: its block devices as {@code lsblk} tells them, raw disk image files in one folder, and as destinations one folder of
 * Granary's own and every drive that is mounted apart from the system.
 */
public final class MachineHost implements Host {
    private static final Duration SWITCHING = Duration.ofSeconds(20);
    /** Images in Granary's own folder leave its database, its copies and rehearsals this much of their common drive. */
    private static final long OWN_ROOM = 500_000_000;

    private final String name;
    private final Path scratch;
    private final MachineDevices devices;
    private final MachineStore store;
    private final MachineImaging imaging;
    private final MachineOverwriting overwriting;
    private final Insides insides;
    private final ScratchFolders scratches;
    private final RemoteFolders remote;

    /**
     * @param rawFiles folder with raw disk image files, made when missing
     * @param images   folder that is always a destination, made when missing
     * @param scratch  where rehearsals restore to; made when first needed
     */
    public MachineHost(String name, Path rawFiles, Path images, Path scratch, Clock clock) throws IOException {
        this(name, rawFiles, images, scratch, clock, Attachments.DISKS);
    }

    /** @param types kinds of devices that count as disks, as lsblk calls them: {@code "disk"}, {@code "loop"}, {@code "mpath"} */
    public MachineHost(String name, Path rawFiles, Path images, Path scratch, Clock clock, Set<String> types) throws IOException {
        this(name, rawFiles, images, scratch, clock, types, OWN_ROOM);
    }

    /** @param named folders the office names: they, and what is mounted in them, are destinations too */
    public MachineHost(String name, Path rawFiles, Path images, Path scratch, Clock clock, Set<String> types, List<Path> named)
        throws IOException {
        this(name, rawFiles, Optional.of(Files.createDirectories(images)), Files.createDirectories(images), scratch, clock, types,
            OWN_ROOM, List.of(), new BorrowedFolders(), named);
    }

    /**
     * @param keptBytes of the drive that holds the images folder, which no image and no rehearsal takes. Raw files in a folder of their own
     *                  stand for disks that may be overwritten.
     */
    MachineHost(String name, Path rawFiles, Path images, Path scratch, Clock clock, Set<String> types, long keptBytes) throws IOException {
        this(name, rawFiles, Optional.of(Files.createDirectories(images)), Files.createDirectories(images), scratch, clock, types,
            keptBytes, List.of(), new BorrowedFolders(), List.of());
    }

    private MachineHost(String name, Path rawFiles, Optional<Path> images, Path kept, Path scratch, Clock clock, Set<String> types,
        long keptBytes, List<Path> drives, RemoteFolders remote, List<Path> named) throws IOException {
        KeptRoom room = new KeptRoom(kept, keptBytes);
        this.name = name;
        this.remote = remote;
        this.scratch = scratch;
        this.devices = new MachineDevices(name, Files.createDirectories(rawFiles), types, images.isPresent() ? "" : name + "/");
        this.store = new MachineStore(devices, images, drives, remote, room, named);
        this.imaging = new MachineImaging(devices, store, scratch, room, clock);
        this.insides = new ImageInsides(store::bag, image -> store.disk(image, scratch));
        this.scratches = new ScratchFolders(name);
        this.overwriting = new MachineOverwriting(devices, store, images.isPresent() ? rawFiles.resolveSibling("targets") : rawFiles,
            scratch, scratches, room);
    }

    /**
     * A computer that does work for an office: it keeps no images itself.
     *
     * @param rawFiles folder with raw disk image files, made when missing; like the computer's own disks they may be written to
     * @param drives   folders that stand for drives, which exist
     * @param types    kinds of devices that count as disks, as lsblk calls them; none for a machine that is but files and folders
     * @param remote   what others serve to it
     */
    public static MachineHost forAnOffice(String name, Path rawFiles, List<Path> drives, Set<String> types, RemoteFolders remote,
        Path scratch, Clock clock) throws IOException {
        return new MachineHost(name, rawFiles, Optional.empty(), Files.createDirectories(scratch), scratch, clock, types, 0, drives,
            remote, List.of());
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public String simulation() {
        return "";
    }

    @Override
    public Devices devices() {
        return devices;
    }

    @Override
    public ImageStore store() {
        return store;
    }

    @Override
    public Imaging imaging() {
        return imaging;
    }

    @Override
    public Overwriting overwriting() {
        return overwriting;
    }

    @Override
    public Insides insides() {
        return insides;
    }

    @Override
    public Optional<Lender> lender() {
        return Optional.of(new LocalLender(store, overwriting.rescueFiles()));
    }

    @Override
    public Optional<BorrowedFolders> borrowed() {
        return remote instanceof BorrowedFolders mine ? Optional.of(mine) : Optional.empty();
    }

    @Override
    public Power power() throws IOException {
        return PowerSupplies.read(Path.of("/sys/class/power_supply"));
    }

    @Override
    public void sweep() throws IOException {
        ImageWork.sweep(scratch);
        List<Path> roots = new ArrayList<>(store.scratchPlaces("").stream().map(MachineStore.ScratchPlace::folder).toList());
        roots.add(scratch);
        scratches.sweep(roots);
    }

    /**
     * The disks at hand are this machine's, so it is this machine that goes; with a minute's notice, which {@code shutdown -c} takes back.
     */
    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        if (!diskId.isEmpty()) {
            devices.require(diskId);
        }
        SystemTool.Said said = SystemTool.run(List.of("shutdown", action == Afterwards.OFF ? "-h" : "-r", "+1"), true, SWITCHING,
            "Do it by hand.");
        if (said.exit() != 0) {
            throw Fault.of(Fault.Kind.DEVICE_FAILED, name,
                "This machine could not be switched off or started again: " + said.text() + ". Do it by hand.").asException();
        }
    }
}
