package app.granary.server.capture;

import app.granary.core.destination.Destination;
import app.granary.core.estimate.RunComparison;
import app.granary.core.estimate.RunCorrection;
import app.granary.server.estimate.PastTimes;
import app.granary.server.estimate.Prospect;
import app.granary.server.queue.Took;
import java.time.Duration;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;

/** What captures were estimated to take and took, and what that teaches the next estimate. */
@Component
public class CaptureTimes implements PastTimes {
    /** The last finished captures that are looked at, over all drives: what is older says little of today's. */
    private static final Limit LOOKED_AT = Limit.of(400);

    private final CaptureTimeRepository times;

    CaptureTimes(CaptureTimeRepository times) {
        this.times = times;
    }

    void estimated(UUID runId, Prospect prospect, Destination to) {
        times.save(new CaptureTime(runId, prospect, to));
    }

    void took(UUID runId, Took took) {
        times.findById(runId).ifPresent(time -> {
            time.took(took);
            times.save(time);
        });
    }

    /** By run; without those there is nothing to compare of. */
    public Map<UUID, RunComparison> comparisons(Collection<UUID> runs) {
        Map<UUID, RunComparison> out = new HashMap<>();
        times.findAllById(runs).forEach(time -> time.comparison().ifPresent(comparison -> out.put(time.runId(), comparison)));
        return out;
    }

    @Override
    public Map<String, RunCorrection> corrections(String diskId, String codec) {
        Map<String, List<CaptureTimeRepository.Done>> there = times.done(codec, LOOKED_AT).stream()
            .collect(Collectors.groupingBy(CaptureTimeRepository.Done::destinationId));
        Map<String, RunCorrection> out = new HashMap<>();
        there.forEach((destination, all) -> {
            RunCorrection own = of(all.stream().filter(done -> done.diskId().equals(diskId)).toList());
            out.put(destination, own.ratios().isEmpty() ? of(all) : own);
        });
        return out;
    }

    private static RunCorrection of(List<CaptureTimeRepository.Done> newestFirst) {
        // a clock that was set back while a run went on tells nothing of its time
        Stream<CaptureTimeRepository.Done> timed = newestFirst.stream()
            .filter(done -> done.plainSeconds() > 0 && done.endedAt() != null && done.endedAt().isAfter(done.begunAt()));
        return RunCorrection
            .of(timed.map(done -> Duration.between(done.begunAt(), done.endedAt()).toMillis() / 1000.0 / done.plainSeconds()).toList());
    }
}
