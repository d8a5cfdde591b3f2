package app.granary.server.rehearsal;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Imaging;
import app.granary.engine.restore.BootRehearsal;
import app.granary.server.check.Proven;
import app.granary.server.claim.OfficeClaims;
import app.granary.server.home.GranarySettings;
import app.granary.server.image.ImageRecords;
import app.granary.server.image.Images;
import app.granary.server.queue.LiveRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.Took;
import app.granary.server.queue.Work;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Starts an image where that is possible, then restores it onto scratch and compares it. */
@Component
class RehearsalWork implements Work<RehearsalOrder> {
    private final Imaging imaging;
    private final OfficeClaims claims;
    private final Images images;
    private final ImageRecords imageRecords;
    private final RehearsalRepository repository;
    private final GranarySettings settings;
    private final Clock clock;

    RehearsalWork(Imaging imaging, OfficeClaims claims, Images images, ImageRecords imageRecords, RehearsalRepository repository,
        GranarySettings settings,
        Clock clock) {
        this.imaging = imaging;
        this.claims = claims;
        this.images = images;
        this.imageRecords = imageRecords;
        this.repository = repository;
        this.settings = settings;
        this.clock = clock;
    }

    /** What its screen looked like when it was left. */
    static Path picture(GranarySettings settings, UUID id) throws IOException {
        return Files.createDirectories(settings.home().resolve("evidence")).resolve(id + ".png");
    }

    @Override
    public Run.Kind kind() {
        return Run.Kind.REHEARSAL;
    }

    @Override
    public Class<RehearsalOrder> orderType() {
        return RehearsalOrder.class;
    }

    @Override
    public List<DeviceClaim> claims(Run run, RehearsalOrder order) {
        List<DeviceClaim> out = new ArrayList<>(claims.storing(run.destinationId(), run.destination()));
        out.add(claims.scratch());
        return out;
    }

    @Override
    public String perform(LiveRun running, RehearsalOrder order, Passphrase passphrase) throws IOException {
        long began = System.nanoTime();
        ImageAt image = images.at(order.copyId(), passphrase);
        Imaging.Started started = imaging.start(image); // first, so that its picture is there at once; the restore may take hours
        if (started.seen().isPresent()) {
            keep(started.seen().get(), order.rehearsalId());
        }
        CheckOutcome outcome = imaging.check(image, ProofLevel.REHEARSED, running);
        imageRecords.recordCheck(order.copyId(), outcome, (System.nanoTime() - began) / 1e9, running.run().begunBy());
        Proven.require(running.run(), outcome);
        return "It was restored onto scratch and is what was read of the disk. " + started.seen()
            .map(seen -> "When it was started"
                + (seen.rested() ? ", its screen came to rest"
                    : seen.heldUp() ? ", this machine was too busy for its screen to come to rest"
                        : ", its screen had not come to rest when it was left")
                + (seen.picture().length > 0 ? "; the picture is kept. Look at it, and judge." : "; it showed no picture."))
            .orElse("It was not started: " + started.notStarted());
    }

    private void keep(BootRehearsal.Seen seen, UUID id) throws IOException {
        if (seen.picture().length > 0) {
            Files.write(picture(settings, id), seen.picture());
        }
        repository.findById(id).ifPresent(asked -> {
            asked.saw(seen.picture().length > 0, seen.rested(), seen.serial());
            repository.save(asked);
        });
    }

    @Override
    public void ended(Run run, Took took) {
        repository.findByRunId(run.id()).ifPresent(asked -> {
            asked.end(run.state() == Run.State.DONE, run.outcome(), clock.instant());
            repository.save(asked);
        });
    }
}
