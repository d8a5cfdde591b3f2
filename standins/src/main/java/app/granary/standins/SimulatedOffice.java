package app.granary.standins;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.CheckDepth;
import app.granary.core.proof.CheckOutcome;
import app.granary.engine.bag.ImageName;
import app.granary.engine.capture.CaptureResult;
import app.granary.engine.progress.Watch;
import app.granary.engine.site.Desk;
import app.granary.engine.site.PastReading;
import app.granary.engine.site.PastRoom;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.SiteEstimate;
import app.granary.engine.site.SiteImage;
import app.granary.engine.site.Storage;
import app.granary.engine.source.RawSource;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;

/** The Marrowby Survey Office: raw disk files filled from templates, drives that are folders, sizes and pace scaled. */
public final class SimulatedOffice implements Site {
    /** Beside an image: how many bytes one of its bytes stands for. Outside the image's folder, which holds only what its manifest lists. */
    private static final String SCALE_SUFFIX = ".scale";

    private final Path disks;
    private final Path drives;
    private final Clock clock;
    private final double quicker;

    /**
     * @param home where disks and drives are kept
     * @param pace 1 for the office's usual pace, more for quicker devices
     */
    public SimulatedOffice(Path home, Clock clock, double pace) throws IOException {
        this.disks = Files.createDirectories(home.resolve("disks"));
        this.drives = Files.createDirectories(home.resolve("drives"));
        this.clock = clock;
        this.quicker = pace;
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            Templates.disk(disk, disks);
        }
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            Files.createDirectories(drives.resolve(drive.id()));
        }
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
    public List<PastRoom> pastRoom() {
        return MarrowbySurveyOffice.DRIVES.stream().flatMap(drive -> PastUse.of(drive, clock.instant()).stream()).toList();
    }

    private long rate(long bytes) {
        return Math.max(1, (long) (bytes * quicker));
    }

    @Override
    public List<Destination> destinations() throws IOException {
        List<Destination> out = new ArrayList<>();
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            long free = Math.max(0, drive.capacityBytes() - drive.occupiedBytes() - imageBytes(drives.resolve(drive.id())));
            out.add(new Destination(drive.id(), drive.name(), drive.place(), drive.attached(), true, drive.capacityBytes(), free, 0,
                drive.fileLimitBytes() == 0 ? OptionalLong.empty() : OptionalLong.of(drive.fileLimitBytes()), rate(drive.writeRateBytes()), Set.of(drive.diskSerial())));
        }
        out.sort(Comparator.comparing(Destination::name));
        return out;
    }

    private static long imageBytes(Path drive) throws IOException {
        long sum = 0;
        try (Stream<Path> entries = Files.list(drive)) {
            for (Path image : entries.filter(Files::isDirectory).toList()) {
                Path scale = drive.resolve(image.getFileName() + SCALE_SUFFIX);
                long factor = Files.exists(scale) ? Long.parseLong(Files.readString(scale).strip()) : 1;
                try (Stream<Path> files = Files.walk(image)) {
                    sum += files.mapToLong(file -> file.toFile().isFile() ? file.toFile().length() : 0).sum() * factor;
                }
            }
        }
        return sum;
    }

    private static StandInDisk disk(String id) throws IOException {
        return MarrowbySurveyOffice.DISKS.stream().filter(d -> d.id().equals(id)).findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id,
            "The disk is not attached. Attach it and try again.").asException());
    }

    private static StandInDrive drive(String id) throws IOException {
        return MarrowbySurveyOffice.DRIVES.stream().filter(d -> d.id().equals(id)).findFirst().orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id,
            "The destination is not attached. Attach it and try again.").asException());
    }

    private RawSource open(StandInDisk disk) throws IOException {
        return RawSource.open(Templates.disk(disk, disks));
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        StandInDisk disk = disk(diskId);
        try (RawSource source = open(disk)) {
            return new Scale(disk.scale()).of(DiskSurvey.of(source, choice), disk.computer() + " " + disk.name());
        }
    }

    @Override
    public SiteEstimate estimate(String diskId, Storage storage, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        try (RawSource source = open(disk)) {
            SiteEstimate real = Desk.estimate(source, storage, watch);
            return new SiteEstimate(new Scale(disk.scale()).of(real.size()), real.compressRateBytes() * disk.scale());
        }
    }

    @Override
    public SiteImage capture(String diskId, String destinationId, String name, Storage storage, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        StandInDrive drive = drive(destinationId);
        Path folder = drives.resolve(drive.id());
        Scale scale = new Scale(disk.scale());
        // written before the image, so that an image never lies there without it; a taken name keeps its own and is refused below
        Path note = folder.resolve(ImageName.parse(name).text() + SCALE_SUFFIX);
        boolean nameIsFree = !Files.exists(folder.resolve(name));
        if (nameIsFree) {
            Files.writeString(note, disk.scale() + "\n");
        }
        OptionalLong realSplit = storage.splitBytes().isPresent()
            ? OptionalLong.of(Math.max(65_536, storage.splitBytes().getAsLong() / disk.scale())) : OptionalLong.empty();
        Storage real = new Storage(storage.codec(), storage.level(), realSplit, storage.choice());
        try (RawSource source = open(disk)) {
            CaptureResult result = Desk.capture(source, disk.identity().withSize(source.sizeBytes()), real, name, folder, clock,
                new PacedWatch(watch, scale, rate(disk.readRateBytes()), rate(drive.writeRateBytes())));
            return new SiteImage(drive.name() + ", folder " + name, result.storedBytes() * disk.scale(), result.rawBytes() * disk.scale(),
                result.usedBytes() * disk.scale(), scale.of(result.check().orElseThrow()));
        } catch (IOException failed) {
            if (nameIsFree && !Files.exists(folder.resolve(name))) {
                Files.deleteIfExists(note);
            }
            throw failed;
        }
    }

    @Override
    public CheckOutcome check(String destinationId, String name, CheckDepth depth, Watch watch) throws IOException {
        StandInDrive drive = drive(destinationId);
        Path folder = drives.resolve(drive.id());
        String image = ImageName.parse(name).text();
        Path note = folder.resolve(image + SCALE_SUFFIX);
        Scale scale = new Scale(Files.exists(note) ? Long.parseLong(Files.readString(note).strip()) : 1);
        return scale.of(Verification.run(folder.resolve(image), depth, new PacedWatch(watch, scale, rate(drive.writeRateBytes()), rate(drive.writeRateBytes()))));
    }
}
