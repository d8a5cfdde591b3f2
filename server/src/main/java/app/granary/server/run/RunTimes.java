package app.granary.server.run;

import app.granary.core.estimate.RunCorrection;
import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;

/** What finished captures teach the next time estimate. */
@Component
public class RunTimes {
    /** More than a correction looks at, since some ratios are not believed. */
    private static final Limit LOOKED_AT = Limit.of(12);

    private final RunRepository runs;

    RunTimes(RunRepository runs) {
        this.runs = runs;
    }

    /** From runs of the same disk to the same destination with the same codec; without any, from those of other disks there. */
    public RunCorrection correction(String diskId, String destinationId, String codec) {
        RunCorrection own = of(runs.findByKindAndStateAndDestinationIdAndCodecAndDiskIdOrderByEndedAtDesc(Run.Kind.CAPTURE, Run.State.DONE, destinationId, codec, diskId, LOOKED_AT));
        return own.ratios().isEmpty() ? of(runs.findByKindAndStateAndDestinationIdAndCodecOrderByEndedAtDesc(Run.Kind.CAPTURE, Run.State.DONE, destinationId, codec, LOOKED_AT)) : own;
    }

    private static RunCorrection of(List<Run> newestFirst) {
        Stream<Run> timed = newestFirst.stream().filter(run -> run.plainSeconds() > 0 && run.endedAt() != null);
        return RunCorrection.of(timed.map(run -> Duration.between(run.begunAt(), run.endedAt()).toMillis() / 1000.0 / run.plainSeconds()).toList());
    }
}
