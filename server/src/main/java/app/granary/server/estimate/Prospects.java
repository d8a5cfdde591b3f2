package app.granary.server.estimate;

import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.engine.host.Devices;
import app.granary.server.home.Pace;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.destination.Promises;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeDays;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import org.springframework.stereotype.Service;

/** Weighs an image that has not been made yet: its size, where it fits, how long it takes there. */
@Service
public class Prospects {
    private static final Duration SAMPLE_STANDS = Duration.ofMinutes(1);
    private final Devices devices;
    private final DisksOnRecord disks;
    private final Pace pace;
    private final Promises promises;
    private final Destinations destinations;
    private final PastTimes times;
    private final OfficeDays office;
    private final Images images;
    private final Samples samples;

    Prospects(Devices devices, DisksOnRecord disks, Pace pace, Destinations destinations, Promises promises, PastTimes times,
        OfficeDays office, Images images,
        Samples samples) {
        this.samples = samples;
        this.office = office;
        this.images = images;
        this.destinations = destinations;
        this.times = times;
        this.devices = devices;
        this.disks = disks;
        this.pace = pace;
        this.promises = promises;
    }

    public Prospect.Source source(String diskId) throws IOException {
        for (HostComputer computer : devices.computers()) {
            for (HostDisk disk : computer.disks()) {
                if (disk.id().equals(diskId)) {
                    return new Prospect.Source(computer, disk);
                }
            }
        }
        throw Refused.notFound("disk");
    }

    /**
     * From a sample taken within the last minute, where there is one: a page asks again and again while a person chooses, and only the
     * destinations move.
     */
    public Prospect of(String diskId, Storage storage, boolean encrypted) throws IOException {
        return weigh(source(diskId), storage, encrypted, samples.of(diskId, storage, SAMPLE_STANDS, this::limits), true);
    }

    /**
     * As a night weighs it: from a sample no older than that, where there is one, and with the room that tonight's plans are promised,
     * since the night gives it away itself.
     */
    public Prospect forNight(String diskId, Storage storage, boolean encrypted, Duration oldest) throws IOException {
        return weigh(source(diskId), storage, encrypted, samples.of(diskId, storage, oldest, this::limits), false);
    }

    /** What an image must fit into, on each destination at hand. */
    private List<Long> limits() throws IOException {
        return destinations.now().stream().filter(Destination::attached).map(d -> d.promising(promises.runningBytes(d.id())))
            .map(Destination::usableBytes).filter(room -> room > 0).toList();
    }

    /**
     * As a night weighs it, from an estimate made elsewhere: of a disk that is not attached, whose rate is that of its link by the clock.
     */
    public Prospect forNight(Prospect.Source source, Storage storage, boolean encrypted, HostEstimate estimate) throws IOException {
        long rate = Math.round(source.disk().readRateBytes() * pace.times());
        return weigh(source, storage, encrypted, estimate.reading(OptionalLong.of(rate)), false);
    }

    private Prospect weigh(Prospect.Source source, Storage storage, boolean encrypted, HostEstimate made, boolean countTonight)
        throws IOException {
        HostEstimate estimate = encrypted ? made.encrypted() : made;
        String diskId = source.disk().id();
        SizeEstimate size = estimate.size();
        String serial = source.disk().identity().serial();
        ImageNeed need = new ImageNeed(source.label(), serial.isEmpty() ? Set.of(source.disk().name()) : Set.of(serial), size.lowBytes(),
            size.likelyBytes(),
            size.highBytes(), storage.splitBytes(), new ImageNeed.Circumstances(computerId(diskId), encrypted,
                office.days().encryptLeaving(), images.destinationsOf(diskId), source.computer().machine(),
                storage.choice().without()));
        List<Destination> there = destinations.now().stream()
            .map(d -> d.promising(countTonight ? promises.promisedBytes(d.id(), diskId) : promises.runningBytes(d.id(), Set.of(diskId)))
                .holding(promises.ownBytes(d.id(), Set.of(diskId))))
            .toList();
        Map<String, RunCorrection> corrections = times.corrections(diskId, storage.codec().word());
        return new Prospect(source, storage, estimate, pace.times(), DestinationRules.assess(need, there), corrections);
    }

    private String computerId(String diskId) {
        return disks.all().stream().filter(each -> each.id().equals(diskId)).findFirst().map(each -> each.computerId().toString())
            .orElse("");
    }
}
