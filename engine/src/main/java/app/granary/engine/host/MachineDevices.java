package app.granary.engine.host;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.ComputerFacts;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.ReadTest;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/** The block devices of this machine as {@code lsblk} tells them, and raw disk image files in one folder. */
final class MachineDevices implements Devices {
    private static final long RECENT_NANOS = 1_500_000_000L;

    private final String machine;
    private final Path rawFiles;
    private final Set<String> types;
    private final String salt;
    /** They do not change while the machine runs. */
    private final ComputerFacts facts = ThisMachine.facts();
    private final Map<String, OptionalLong> readRates = new ConcurrentHashMap<>();
    private final Surveys surveys = new Surveys();
    private volatile Listed listed;

    /**
     * @param machine  its name
     * @param rawFiles a folder that exists
     * @param types    kinds of devices that count as disks, as lsblk calls them
     * @param salt     tells raw files of this machine from those of the same name on another; empty for the office's own
     */
    MachineDevices(String machine, Path rawFiles, Set<String> types, String salt) {
        this.machine = machine;
        this.salt = salt;
        this.rawFiles = rawFiles;
        this.types = Set.copyOf(types);
    }

    /**
     * What was attached a moment ago: pages ask often, and each asking starts a program. What is written goes by what is attached at that
     * moment.
     */
    List<Lsblk.Device> recentDevices() throws IOException {
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

    /** As they are at this moment. */
    Attachments attachments() throws IOException {
        return Attachments.of(Lsblk.devices(), types);
    }

    @Override
    public List<SeenDisk> seen() throws IOException {
        return attachments().seen().stream()
            .map(each -> new SeenDisk(Attachments.targetId(each), each.attachment(), each.name(), each.identity(),
            each.reached())).toList();
    }

    /** Whether this machine's own devices are at hand, and not files and folders alone. */
    boolean hasOwn() {
        return !types.isEmpty();
    }

    /** A file's name, told from one of that name on another machine. */
    String salted(String fileName) {
        return salt.isEmpty() ? fileName : Attachments.id(salt + fileName);
    }

    String machine() {
        return machine;
    }

    Surveys surveys() {
        return surveys;
    }

    RawSource openDisk(String diskId) throws IOException {
        return RawSource.open(require(diskId).path());
    }

    /** As long as it is read for a copy: a disk in use is not copied either. */
    DeviceHold holdDisk(String diskId) throws IOException {
        Found found = require(diskId);
        return BlockDevices.hold(found.path, found.disk.name());
    }

    @Override
    public String inUse(String diskId) throws IOException {
        return BlockDevices.heldBy(require(diskId).path);
    }

    /** A disk that is there, and how it is opened. */
    record Found(HostDisk disk, Path path) {
    }

    private List<Found> found() throws IOException {
        List<Found> out = new ArrayList<>();
        for (Attachments.Attached each : Attachments.of(recentDevices(), types).all()) {
            SeenDisk seen = each.seen();
            out.add(new Found(new HostDisk(seen.id(), seen.attachment(), seen.name(), seen.identity(), each.device().bus(), seen.reached(),
                Links.rate(each.device().bus())), Path.of(each.device().path())));
        }
        try (Stream<Path> files = Files.list(rawFiles)) {
            for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
                String name = file.getFileName().toString();
                // two files of one size on two computers are two disks
                DiskIdentity identity = new DiskIdentity("raw image file", salt.isEmpty() ? "" : name, Files.size(file));
                out.add(new Found(HostDisk.lasting(Attachments.id(salt + name), name, identity, "file", Links.NVME), file));
            }
        }
        return out;
    }

    Found require(String diskId) throws IOException {
        return found().stream().filter(f -> f.disk.id().equals(diskId)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, diskId,
                "The disk is not attached to this machine. Attach it and try again.").asException());
    }

    @Override
    public List<HostComputer> computers() throws IOException {
        return List.of(new HostComputer("this-machine", machine, salt.isEmpty() ? "this machine" : "", "", facts,
            found().stream().map(Found::disk).toList()));
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        return surveys.of(require(diskId).path, choice);
    }

    @Override
    public HostEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        try (RawSource source = RawSource.open(require(diskId).path)) {
            HostEstimate estimate = ImageWork.estimate(source, storage, goal, watch);
            return estimate.reading(readRate(diskId, source, storage));
        }
    }

    /** Tested once: what was read a moment ago comes from memory, and says nothing of the disk. */
    private OptionalLong readRate(String diskId, RawSource source, Storage storage) throws IOException {
        OptionalLong known = readRates.get(diskId);
        if (known == null) {
            known = ReadTest.rate(source, survey(diskId, storage.choice()).toRead());
            readRates.put(diskId, known);
        }
        return known;
    }
}
