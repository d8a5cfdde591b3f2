package app.granary.server.capture;

import app.granary.engine.host.HostImage;
import app.granary.server.estimate.Prospect;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.PastRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/** Writes down captures of a made-up office's past as those of today are written down, under a clock that is moved between. */
@Component
public class PastCaptures {
    /** Part of a capture's time that reading back does not take. */
    private static final double CAPTURING_SHARE = 0.6;
    private static final Duration UNTIL_IT_FAILED = Duration.ofSeconds(90);

    private final PastRun past;
    private final CaptureWork work;
    private final Clock clock;

    PastCaptures(PastRun past, CaptureWork work, Clock clock) {
        this.past = past;
        this.work = work;
        this.clock = clock;
    }

    /** Makes the image. */
    public interface Making {
        HostImage make() throws IOException;
    }

    /**
     * Which, for which night and where to.
     *
     * @param plan null for none
     */
    public record What(Prospect prospect, LocalDate night, UUID plan, String destinationId, String name, String who) {
    }

    /**
     * @param length of it against what was estimated, 1 for just as long
     * @param moving moves the clock on by so much
     * @return the copy that was made
     */
    public UUID captured(What what, double length, Consumer<Duration> moving, Making making) throws IOException {
        LiveRun run = begun(what);
        double seconds = what.prospect.plainTimeTo(what.prospect.to(what.destinationId).destination()).likelySeconds() * length;
        moving.accept(Duration.ofMillis(Math.round(seconds * 1000)));
        String sentence = work.recorded(run, what.prospect, making.make(), CaptureOrder.carryingOn("", List.of()));
        past.ended(run, Run.State.DONE, sentence, new Took(seconds * CAPTURING_SHARE, seconds * (1 - CAPTURING_SHARE)), false);
        return run.run().copyId();
    }

    public void failed(What what, String sentence, boolean seen, Consumer<Duration> moving) {
        LiveRun run = begun(what);
        moving.accept(UNTIL_IT_FAILED);
        past.ended(run, Run.State.FAILED, sentence, Took.NOTHING, seen);
    }

    private LiveRun begun(What what) {
        Prospect.Source source = what.prospect.source();
        NewRun.About about = new NewRun.About(source.computer().name(), source.disk().id(), source.disk().name(), what.destinationId,
            what.prospect.to(what.destinationId).destination().name());
        NewRun asked = NewRun.of(Run.Kind.CAPTURE, about, what.name).inNight(what.night, what.plan, clock.instant());
        LiveRun run = past.begun(asked, CaptureOrder.of(what.prospect.storage(), "", Captures.Then.NOTHING), what.who);
        work.estimated(run, what.prospect);
        work.begun(run.run(), what.prospect);
        return run;
    }
}
