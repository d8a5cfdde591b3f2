package app.granary.server.rehearsal;

import app.granary.core.destination.Destination;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.ImageStore;
import app.granary.server.check.CopyRuns;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeChoices;
import app.granary.server.problem.Refused;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunQueue;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Restores for practice, started where that is possible. */
@Service
class Rehearsals {
    private final RehearsalRepository repository;
    private final Images images;
    private final ImageStore store;
    private final RunQueue queue;
    private final GranarySettings settings;
    private final OfficeChoices choices;
    private final JdbcClient database;
    private final Journal journal;
    private final Clock clock;

    Rehearsals(RehearsalRepository repository, Images images, ImageStore store, RunQueue queue,
        GranarySettings settings, OfficeChoices choices, JdbcClient database, Journal journal, Clock clock) {
        this.repository = repository;
        this.images = images;
        this.store = store;
        this.queue = queue;
        this.settings = settings;
        this.choices = choices;
        this.database = database;
        this.journal = journal;
        this.clock = clock;
    }

    UUID begin(UUID imageId, Passphrase passphrase, String who) {
        Images.Shelved image = images.shelved(imageId);
        if (image.format() != Images.Format.GRANARY) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "",
                image.name() + " was made with other tools and cannot be rehearsed here. Check it up to readable.");
        }
        if (image.encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase",
                image.name() + " is encrypted. Enter its passphrase.");
        }
        Rehearsal rehearsal = new Rehearsal(imageId, clock.instant(), who);
        queue.add(CopyRuns.of(Run.Kind.REHEARSAL, imageId, image).as(rehearsal.runId()), new RehearsalOrder(rehearsal.id(), imageId),
            passphrase, who, () -> {
                repository.save(rehearsal);
                journal.add(who, "rehearsal", image.computer() + " " + image.disk(), Journal.Result.BEGUN,
                    "A rehearsal of " + image.name() + " asked for: restored onto scratch, compared, and started there.");
            });
        return rehearsal.id();
    }

    /** Every how many days each disk's newest image is rehearsed; 0 for only by hand. */
    int scheduleDays() {
        return database.sql("select days from rehearsal_schedule where id = 1").query(Integer.class).single();
    }

    void schedule(int days, String who) {
        database.sql("update rehearsal_schedule set days = ? where id = 1").param(days).update();
        journal.add(who, "schedule rehearsals", "the office", Journal.Result.DONE, days == 0 ? "Rehearsals are made by hand only."
            : "Each disk's newest image is rehearsed every " + days + " days, when nobody works.");
    }

    /** One at a time, when the office is closed; an encrypted image needs a person, and one whose drive is away waits for it. */
    @Scheduled(initialDelay = 900_000, fixedDelay = 1_800_000)
    void look() throws IOException {
        int days = scheduleDays();
        if (days == 0 || choices.openNow()) {
            return;
        }
        Set<String> attached = store.destinations().stream().filter(Destination::attached).map(Destination::id).collect(Collectors.toSet());
        Instant since = clock.instant().minus(Duration.ofDays(days));
        for (List<Images.Standings> ofDisk : images.standingsByDisk().values()) {
            Optional<Images.Standings> newest = ofDisk.stream()
                .filter(
                    image -> !image.paper() && !image.encrypted() && image.standing().sound() && attached.contains(image.destinationId()))
                .findFirst();
            if (newest.isPresent() && of(newest.get().id()).stream().noneMatch(done -> done.askedAt().isAfter(since))) {
                begin(newest.get().id(), Passphrase.NONE, "Granary");
                return;
            }
        }
    }

    List<Rehearsal> of(UUID imageId) {
        return repository.findByImageIdOrderByAskedAtDesc(imageId);
    }

    Path picture(UUID id) throws IOException {
        return RehearsalWork.picture(settings, id);
    }
}
