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
import app.granary.server.destination.Destinations;
import app.granary.server.problem.Refused;
import app.granary.server.run.Promises;
import app.granary.server.run.RunTimes;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** Weighs an image that has not been made yet: its size, where it fits, how long it takes there. */
@Service
public class Prospects {
    private static final Duration SAMPLE_STANDS = Duration.ofMinutes(1);
    /** Choices of a handful of people; past that all are taken anew. */
    private static final int MOST_SAMPLES = 200;

    private final Site site;
    private final Promises promises;
    private final Destinations destinations;
    private final RunTimes times;
    private final Clock clock;
    private final Map<Asked, Sampled> samples = new ConcurrentHashMap<>();

    private record Asked(String diskId, Storage storage) {
    }

    private record Sampled(Instant at, SiteEstimate estimate) {
    }

    Prospects(Site site, Destinations destinations, Promises promises, RunTimes times, Clock clock) {
        this.clock = clock;
        this.destinations = destinations;
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

    /** From a sample taken within the last minute, where there is one: a page asks again and again while a person chooses, and only the destinations move. */
    public Prospect of(String diskId, Storage storage) throws IOException {
        Sampled kept = samples.get(new Asked(diskId, storage));
        if (kept != null && kept.at.isAfter(clock.instant().minus(SAMPLE_STANDS))) {
            return with(source(diskId), storage, kept.estimate);
        }
        return fresh(diskId, storage);
    }

    /** From a sample taken now, as a capture about to start needs it. */
    public Prospect fresh(String diskId, Storage storage) throws IOException {
        Source source = source(diskId);
        SiteEstimate estimate = site.estimate(diskId, storage, Watch.NONE);
        if (samples.size() >= MOST_SAMPLES) {
            samples.clear();
        }
        samples.put(new Asked(diskId, storage), new Sampled(clock.instant(), estimate));
        return with(source, storage, estimate);
    }

    private Prospect with(Source source, Storage storage, SiteEstimate estimate) throws IOException {
        String diskId = source.disk().id();
        SizeEstimate size = estimate.size();
        String serial = source.disk().identity().serial();
        ImageNeed need = new ImageNeed(source.label(), serial.isEmpty() ? Set.of(source.disk().name()) : Set.of(serial), size.lowBytes(), size.likelyBytes(),
            size.highBytes(), storage.splitBytes());
        List<Destination> there = destinations.now().stream().map(this::withPromises).toList();
        Map<String, RunCorrection> corrections = there.stream().collect(Collectors.toMap(Destination::id, d -> times.correction(diskId, d.id(), storage.codec().word())));
        return new Prospect(source, storage, size, estimate.compressRateBytes(), DestinationRules.assess(need, there), corrections);
    }

    private Destination withPromises(Destination d) {
        return new Destination(d.id(), d.name(), d.place(), d.attached(), d.writable(), d.capacityBytes(), d.freeBytes(), promises.promisedBytes(d.id()),
            d.fileSizeLimitBytes(), d.writeRateBytes(), d.diskSerials());
    }
}
