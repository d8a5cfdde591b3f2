package app.granary.server.run;

import app.granary.core.estimate.RunCorrection;
import app.granary.server.estimate.PastTimes;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;

/** What finished captures teach the next time estimate. */
@Component
class RunTimes implements PastTimes {
    /** The last finished captures that are looked at, over all drives: what is older says little of today's. */
    private static final Limit LOOKED_AT = Limit.of(400);

    private final RunRepository runs;

    RunTimes(RunRepository runs) {
        this.runs = runs;
    }

    @Override
    public Map<String, RunCorrection> corrections(String diskId, String codec) {
        Map<String, List<Run>> there = runs.findByKindAndStateAndCodecOrderByEndedAtDesc(Run.Kind.CAPTURE, Run.State.DONE, codec, LOOKED_AT).stream().collect(Collectors.groupingBy(Run::destinationId));
        Map<String, RunCorrection> out = new HashMap<>();
        there.forEach((destination, all) -> {
            RunCorrection own = of(all.stream().filter(run -> run.diskId().equals(diskId)).toList());
            out.put(destination, own.ratios().isEmpty() ? of(all) : own);
        });
        return out;
    }

    private static RunCorrection of(List<Run> newestFirst) {
        // a clock that was set back while a run went on tells nothing of its time
        Stream<Run> timed = newestFirst.stream().filter(run -> run.plainSeconds() > 0 && run.endedAt() != null && run.endedAt().isAfter(run.begunAt()));
        return RunCorrection.of(timed.map(run -> Duration.between(run.begunAt(), run.endedAt()).toMillis() / 1000.0 / run.plainSeconds()).toList());
    }
}
