package app.granary.server.run;

import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.site.SiteImage;
import app.granary.server.estimate.Prospect;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.UUID;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/** Writes down runs of a made-up office's past as runs of today are written down: with their estimates, images, checks, times and journal lines, under a clock that is moved between. */
@Component
public class PastRuns {
    private final RunRepository repository;
    private final RunWork work;
    private final Images images;
    private final Journal journal;
    private final Clock clock;
    private final NightsMailed mailed;

    PastRuns(RunRepository repository, RunWork work, Images images, Journal journal, Clock clock, NightsMailed mailed) {
        this.mailed = mailed;
        this.repository = repository;
        this.work = work;
        this.images = images;
        this.journal = journal;
        this.clock = clock;
    }

    /** Makes the image. */
    public interface Making {
        SiteImage make() throws IOException;
    }

    /**
     * @param length of it against what was thought, 1 for just as long
     * @param moving moves the clock on by so much
     * @return the image
     */
    public UUID captured(Prospect prospect, LocalDate night, UUID plan, String destinationId, String name, String who, double length, Consumer<Duration> moving, Making making) throws IOException {
        Run run = begun(prospect, night, plan, destinationId, name, who);
        double seconds = prospect.plainTimeTo(prospect.to(destinationId).destination()).likelySeconds() * length;
        moving.accept(Duration.ofMillis(Math.round(seconds * 1000)));
        String sentence = work.recorded(run, prospect, making.make());
        run.end(Run.State.DONE, clock.instant(), sentence);
        run.took(seconds * 0.6, seconds * 0.4);
        repository.save(run);
        told(run);
        journal.add(who, run.kind().word(), run.subject(), Journal.Result.DONE, run.outcome(), run.facts());
        return run.imageId();
    }

    private Run begun(Prospect prospect, LocalDate night, UUID plan, String destinationId, String name, String who) {
        String destination = prospect.to(destinationId).destination().name();
        Prospect.Source source = prospect.source();
        Run run = Run.capture(source.computer().name(), source.disk().id(), source.disk().name(), destinationId, destination, name, clock.instant(), who)
            .with(work.written(RunOrder.capture(prospect.storage(), "", "")), false, false).inNight(night, plan, clock.instant());
        run.begin(name, clock.instant());
        run.think(prospect, prospect.to(destinationId).destination());
        repository.save(run);
        journal.add(who, "capture", run.subject(), Journal.Result.BEGUN, "Capture of " + source.label() + " (serial " + source.disk().identity().serial() + ") to " + destination + " begun as " + name + ", about "
            + Sizes.decimal(prospect.size().likelyBytes()) + ".", run.facts());
        return run;
    }

    public void failed(Prospect prospect, LocalDate night, UUID plan, String destinationId, String name, String who, String sentence, boolean seen, Consumer<Duration> moving) {
        Run run = begun(prospect, night, plan, destinationId, name, who);
        moving.accept(Duration.ofSeconds(90));
        run.end(Run.State.FAILED, clock.instant(), sentence);
        if (seen) {
            run.see(clock.instant());
        }
        repository.save(run);
        told(run);
        journal.add(who, "capture", run.subject(), Journal.Result.FAILED, sentence, run.facts());
    }

    /** A check that was really made, on the bytes as they are. */
    public void checked(UUID imageId, CheckOutcome outcome, ProofLevel level, String who) {
        Run run = Run.ofImage(Run.Kind.CHECK, imageId, images.shelved(imageId), clock.instant(), who).with(work.written(RunOrder.proving(level, "")), false, true);
        run.begin(images.shelved(imageId).name(), clock.instant());
        images.recordCheck(imageId, outcome, 0, who);
        String sentence = outcome.ok() ? "Image " + run.imageName() + " on " + run.destination() + " is " + level.word() + "." : run.imageName() + " on " + run.destination() + " is damaged: " + outcome.problems().get(0).message();
        run.end(outcome.ok() ? Run.State.DONE : Run.State.FAILED, clock.instant(), sentence);
        repository.save(run);
        told(run);
        journal.add(who, "check", run.subject(), outcome.ok() ? Journal.Result.DONE : Journal.Result.FAILED, sentence, run.facts());
    }

    public void copied(UUID of, String destinationId, String destination, CheckOutcome outcome, String who) {
        Images.Shelved image = images.shelved(of);
        UUID copy = images.recordCopy(of, destinationId, destination, outcome, who);
        journal.add(who, "copy", image.computer() + " " + image.disk(), Journal.Result.DONE, "Image " + image.name() + " copied from " + image.destination() + " to " + destination + ": every digest of the copy matches.",
            Journal.Facts.of(java.util.List.of(image.serial(), destinationId), java.util.Map.of("storedBytes", image.storedBytes()), "/images/" + copy));
    }

    /** Whoever had it told of a night of the past heard it then. */
    private void told(Run run) {
        if (run.night() != null) {
            mailed.note(run.night(), clock.instant());
        }
    }
}
