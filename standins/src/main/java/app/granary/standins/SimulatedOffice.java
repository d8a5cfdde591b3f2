package app.granary.standins;

import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Lender;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.RemoteFolders;
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
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** The Marrowby Survey Office: raw disk files filled from templates, drives that are folders, sizes and pace scaled. */
public final class SimulatedOffice implements Host, Past {
    private final Path disks;
    private final Path driveFolders;
    private final StandInDrives drives;
    private final SimulatedDevices devices;
    private final SimulatedStore store;
    private final SimulatedImaging imaging;
    private final Clock clock;
    private final double quicker;
    private final Path scratch;
    private final StandInFaults faults;
    private final Path once;
    private final SimulatedOverwriting overwriting;
    private final Insides insides;
    private final SimulatedLender lender;
    /** By name: those whose disks are attached to the office's own machine. */
    private final Set<String> attached = ConcurrentHashMap.newKeySet();
    private final Path home;

    /**
     * @param home where disks and drives are kept
     * @param pace 1 for the office's usual pace, more for quicker devices
     */
    public SimulatedOffice(Path home, Clock clock, double pace) throws IOException {
        this(home, home.resolve("once"), clock, pace);
    }

    /** @param once where each disk's capture for the past is kept, for this office and others to come */
    public SimulatedOffice(Path home, Path once, Clock clock, double pace) throws IOException {
        this.home = home;
        this.once = once;
        this.disks = Files.createDirectories(home.resolve("disks"));
        this.driveFolders = Files.createDirectories(home.resolve("drives"));
        this.clock = clock;
        this.quicker = pace;
        this.scratch = Files.createDirectories(home.resolve("scratch"));
        this.faults = new StandInFaults(driveFolders);
        this.drives = new StandInDrives(driveFolders, faults, pace, RemoteFolders.NONE);
        MarrowbySurveyOffice.DESKS.forEach(desk -> attached.add(desk.name()));
        Share share = new Share(attached, true);
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            Templates.disk(disk, disks);
        }
        this.devices = new SimulatedDevices(disks, faults, drives, share);
        this.store = new SimulatedStore(drives, share, scratch);
        this.imaging = new SimulatedImaging(devices, store, drives, faults, scratch, clock);
        this.insides = new SimulatedInsides(store);
        this.overwriting = new SimulatedOverwriting(devices, store, drives, faults, home, share);
        this.lender = new SimulatedLender(drives, faults, overwriting.rescueFiles());
        OldImages.lay(disks, driveFolders, StandInDrives.SCALE_SUFFIX, clock.instant());
    }

    @Override
    public String name() {
        return MarrowbySurveyOffice.NAME;
    }

    @Override
    public String simulation() {
        return "Simulated devices: the office and its clock are made up, sizes and pace are scaled, the bytes are real";
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
        return Optional.of(lender);
    }

    /** From now on the laptops are not attached to this machine, but computers of their own. */
    public Laptops sendLaptopsAway() {
        Laptops.NAMES.forEach(attached::remove);
        Laptops out = new Laptops(home, quicker, clock, faults);
        faults.listen(out::turned);
        return out;
    }

    @Override
    public Power power() {
        return faults.power();
    }

    /** One that is started again comes up with its own system, and is there as before. */
    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        faults.power(diskId.isEmpty() ? "DATUM" : devices.disk(diskId).computer(), action == Afterwards.OFF);
    }

    @Override
    public String machine(String diskId) throws IOException {
        return devices.disk(diskId).computer();
    }

    @Override
    public void sweep() throws IOException {
        ImageWork.sweep(scratch);
    }

    /** How many times as fast as the clock its devices work. */
    public double pace() {
        return MarrowbySurveyOffice.PACE * quicker;
    }

    @Override
    public List<PastReading> readings() {
        List<PastReading> out = new ArrayList<>();
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            try {
                out.addAll(PastUse.of(disk, devices.survey(disk, SurveyChoice.USED).toldUsedBytes(), clock.instant()));
            } catch (IOException unreadable) {
                // a disk that cannot be read has no past either
            }
        }
        return out;
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
    public Optional<PastWork> work() {
        return clock instanceof MovedClock moved ? Optional.of(new PastImages(drives, disks, driveFolders, once, moved)) : Optional.empty();
    }

    /** Makes the office's disks and captures every one once, so that it starts quickly later, with a past. */
    public static void preparePast(Path home, Path once, Clock clock) throws IOException {
        PastImages.prepare(new SimulatedOffice(home, once, clock, 1).disks, once, clock);
    }

    /** What can be made to go wrong, for practice. */
    public Switchboard switchboard() {
        return faults;
    }
}
