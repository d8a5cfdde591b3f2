package app.granary.server.estimate;

import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.estimate.RunCorrection;
import app.granary.core.estimate.SizeEstimate;
import app.granary.core.estimate.TimeEstimate;
import app.granary.engine.progress.Watch;
import app.granary.engine.site.Site;
import app.granary.engine.site.SiteComputer;
import app.granary.engine.site.SiteDisk;
import app.granary.engine.site.SiteEstimate;
import app.granary.engine.site.Storage;
import app.granary.server.problem.Refused;
import app.granary.server.run.Promises;
import app.granary.server.run.RunTimes;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** Weighs an image that has not been made yet: its size, where it fits, how long it takes there. */
@Service
public class Prospects {
    private final Site site;
    private final Promises promises;
    private final RunTimes times;

    Prospects(Site site, Promises promises, RunTimes times) {
        this.times = times;
        this.site = site;
        this.promises = promises;
    }

    /** A disk with the computer it belongs to. */
    public record Source(SiteComputer computer, SiteDisk disk) {
        /** As sentences name it. */
        public String label() {
            return computer.name() + " " + disk.name();
        }
    }

    /**
     * Everything known about an image before it is made.
     *
     * @param corrections what earlier runs teach of the time, by destination
     */
    public record Prospect(Source source, Storage storage, SizeEstimate size, long compressRateBytes, List<DestinationAssessment> assessments,
                           Map<String, RunCorrection> corrections) {
        /** By rates alone. */
        public TimeEstimate plainTimeTo(Destination destination) {
            return TimeEstimate.of(size, source.disk().readRateBytes(), compressRateBytes, destination.writeRateBytes());
        }

        public RunCorrection correction(Destination destination) {
            return corrections.getOrDefault(destination.id(), RunCorrection.NONE);
        }

        /** By rates, as this office's own runs correct them. */
        public TimeEstimate timeTo(Destination destination) {
            return plainTimeTo(destination).corrected(correction(destination));
        }
    }

    public Source source(String diskId) throws IOException {
        for (SiteComputer computer : site.computers()) {
            for (SiteDisk disk : computer.disks()) {
                if (disk.id().equals(diskId)) {
                    return new Source(computer, disk);
                }
            }
        }
        throw Refused.notFound("disk");
    }

    public Prospect of(String diskId, Storage storage) throws IOException {
        Source source = source(diskId);
        SiteEstimate estimate = site.estimate(diskId, storage, Watch.NONE);
        SizeEstimate size = estimate.size();
        String serial = source.disk().identity().serial();
        ImageNeed need = new ImageNeed(source.label(), serial.isEmpty() ? Set.of(source.disk().name()) : Set.of(serial), size.lowBytes(), size.likelyBytes(),
            size.highBytes(), storage.splitBytes());
        List<Destination> destinations = site.destinations().stream().map(this::withPromises).toList();
        Map<String, RunCorrection> corrections = destinations.stream().collect(Collectors.toMap(Destination::id, d -> times.correction(diskId, d.id(), storage.codec().word())));
        return new Prospect(source, storage, size, estimate.compressRateBytes(), DestinationRules.assess(need, destinations), corrections);
    }

    private Destination withPromises(Destination d) {
        return new Destination(d.id(), d.name(), d.place(), d.attached(), d.writable(), d.capacityBytes(), d.freeBytes(), promises.promisedBytes(d.id()),
            d.fileSizeLimitBytes(), d.writeRateBytes(), d.diskSerials());
    }
}
