package app.granary.standins;

import app.granary.core.plan.Afterwards;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.RemoteFolders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Set;

/** One laptop of the made-up office, started from rescue media: its own disk, and no drive but those that are lent to it. */
final class SimulatedLaptop implements Host {
    private final String name;
    private final Path scratch;
    private final StandInFaults faults;
    private final SimulatedDevices devices;
    private final SimulatedStore store;
    private final SimulatedImaging imaging;
    private final SimulatedOverwriting overwriting;
    private final Insides insides;
    private final Runnable off;

    /**
     * @param office where the office's disks are kept
     * @param own    what is the laptop's alone
     * @param off    what switches it off, a moment later
     */
    SimulatedLaptop(String name, Path office, Path own, Clock clock, double pace, RemoteFolders lent, Runnable off) throws IOException {
        this.name = name;
        this.off = off;
        this.scratch = Files.createDirectories(own.resolve("scratch"));
        this.faults = new StandInFaults(own);
        Share share = new Share(Set.of(name), false);
        StandInDrives drives = new StandInDrives(Files.createDirectories(own.resolve("drives")), faults, pace, lent);
        this.devices = new SimulatedDevices(office.resolve("disks"), faults, drives, share);
        this.store = new SimulatedStore(drives, share, scratch);
        this.imaging = new SimulatedImaging(devices, store, drives, faults, scratch, clock);
        this.insides = new SimulatedInsides(store);
        this.overwriting = new SimulatedOverwriting(devices, store, drives, faults, own, share);
    }

    Switchboard switchboard() {
        return faults;
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
    public void sweep() throws IOException {
        ImageWork.sweep(scratch);
    }

    /** One that is started again comes up with its own system, and is there as before. */
    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        if (!diskId.isEmpty()) {
            devices.disk(diskId);
        }
        if (action == Afterwards.OFF) {
            off.run();
        }
    }

    @Override
    public String machine(String diskId) throws IOException {
        return devices.disk(diskId).computer();
    }
}
