package app.granary.standins;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.capture.CarefulSource;
import app.granary.engine.host.Devices;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.ImageWork;
import app.granary.engine.host.Storage;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;

/** The office's disks: raw files filled from templates, with sizes scaled. */
final class SimulatedDevices implements Devices {
    private final Path disks;
    private final StandInFaults faults;
    private final StandInDrives pace;
    private final Share share;

    /** @param disks folder with their files */
    SimulatedDevices(Path disks, StandInFaults faults, StandInDrives pace, Share share) {
        this.share = share;
        this.disks = disks;
        this.faults = faults;
        this.pace = pace;
    }

    @Override
    public List<HostComputer> computers() {
        List<HostComputer> out = new ArrayList<>();
        for (MarrowbySurveyOffice.Desk desk : MarrowbySurveyOffice.DESKS) {
            if (!share.computers().contains(desk.name())) {
                continue;
            }
            List<HostDisk> own = MarrowbySurveyOffice.DISKS.stream().filter(disk -> disk.computer().equals(desk.name()))
                .map(this::hostDisk).toList();
            out.add(new HostComputer(desk.name().toLowerCase(java.util.Locale.ROOT), desk.name(), desk.role(), desk.owner(), desk.facts(),
                own));
        }
        return out;
    }

    private HostDisk hostDisk(StandInDisk disk) {
        if (!faults.adapted(disk.id())) {
            return HostDisk.lasting(disk.id(), disk.name(), disk.identity(), disk.bus(), pace.rate(disk.readRateBytes()));
        }
        String here = faults.adapter(disk.id());
        return new HostDisk(here, here, "the disk in the adapter", new DiskIdentity("Whin adapter", "", disk.identity().sizeBytes()),
            "USB 3", "usb1/1-4", pace.rate(disk.readRateBytes()));
    }

    @Override
    public List<SeenDisk> seen() {
        return share.bench() ? StandInTarget.ALL.stream().filter(each -> !faults.unplugged(each.id())).map(this::seen).toList()
            : List.of();
    }

    SeenDisk seen(StandInTarget target) {
        return new SeenDisk(target.id(), faults.attachment(target.id()), target.name(), faults.identity(target), target.where());
    }

    /** A disk at hand, whose computer is not switched off. */
    StandInDisk disk(String id) throws IOException {
        StandInDisk disk = MarrowbySurveyOffice.DISKS.stream().filter(share::has)
            .filter(d -> d.id().equals(id) || faults.adapter(d.id()).equals(id)).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED, id,
                "The disk is not attached. Attach it and try again.").asException());
        if (faults.off(disk.computer())) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, id,
                    disk.computer() + " is switched off, so its disks are not attached. Start it from rescue media and try again.")
                .asException();
        }
        return disk;
    }

    /** The file its bytes lie in. */
    Path file(StandInDisk disk) throws IOException {
        return Templates.disk(disk, disks);
    }

    /** As it is read: with the bad sectors it has. */
    BlockSource open(StandInDisk disk) throws IOException {
        return faults.worn(disk, RawSource.open(file(disk)));
    }

    @Override
    public DiskSurvey survey(String diskId, SurveyChoice choice) throws IOException {
        return survey(disk(diskId), choice);
    }

    /** Of any disk of the office. */
    DiskSurvey survey(StandInDisk disk, SurveyChoice choice) throws IOException {
        try (BlockSource source = open(disk)) {
            return new Scale(disk.scale()).of(DiskSurvey.of(new CarefulSource(source), choice), disk.computer() + " " + disk.name());
        }
    }

    @Override
    public HostEstimate estimate(String diskId, Storage storage, SampleGoal goal, Watch watch) throws IOException {
        StandInDisk disk = disk(diskId);
        try (BlockSource source = open(disk)) {
            HostEstimate real = ImageWork.estimate(source, storage, goal.scaled(disk.scale()), watch);
            return new HostEstimate(new Scale(disk.scale()).of(real.size()), new Scale(disk.scale()).of(real.encryptedSize()),
                real.compressRateBytes() * disk.scale(), real.compressRateBytes(), OptionalLong.empty());
        }
    }
}
