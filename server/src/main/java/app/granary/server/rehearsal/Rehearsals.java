package app.granary.server.rehearsal;

import app.granary.core.claim.DeviceClaim;
import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.site.Site;
import app.granary.engine.site.Workbench;
import app.granary.server.claim.OfficeDevices;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeChoices;
import app.granary.server.problem.Refused;
import app.granary.server.run.OtherRuns;
import app.granary.server.run.OtherWork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Restores for practice, started where that is possible. */
@Service
class Rehearsals implements OtherWork {
    private final RehearsalRepository repository;
    private final Images images;
    private final Site site;
    private final OfficeDevices devices;
    private final ObjectProvider<OtherRuns> runs;
    private final GranarySettings settings;
    private final OfficeChoices choices;
    private final JdbcClient database;
    private final Journal journal;
    private final Clock clock;

    Rehearsals(RehearsalRepository repository, Images images, Site site, OfficeDevices devices, ObjectProvider<OtherRuns> runs,
        GranarySettings settings, OfficeChoices choices, JdbcClient database, Journal journal, Clock clock) {
        this.repository = repository;
        this.images = images;
        this.site = site;
        this.devices = devices;
        this.runs = runs;
        this.settings = settings;
        this.choices = choices;
        this.database = database;
        this.journal = journal;
        this.clock = clock;
    }

    UUID begin(UUID imageId, Passphrase passphrase, String who) {
        Images.Shelved image = images.shelved(imageId);
        if (image.format() != Images.Format.GRANARY) {
            throw new Refused(HttpStatus.CONFLICT, "other-format", "", image.name() + " was made with other tools and cannot be rehearsed here. Check it up to readable.");
        }
        if (image.encrypted() && passphrase.isNone()) {
            throw new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "locked", "passphrase", image.name() + " is encrypted. Give its passphrase.");
        }
        Rehearsal rehearsal = repository.save(new Rehearsal(imageId, clock.instant(), who));
        journal.add(who, "rehearsal", image.computer() + " " + image.disk(), Journal.Result.BEGUN, "A rehearsal of " + image.name() + " asked for: restored onto scratch, compared, and started there.");
        runs.getObject().begin(new OtherRuns.Order(rehearsal.runId(), OtherRuns.Kind.REHEARSAL, image.computer(), image.diskId(), image.disk(), image.destinationId(), image.destination(), image.name(), Optional.of(imageId),
            image.storedBytes(), 0, 0, image.encrypted()), passphrase, who);
        return rehearsal.id();
    }

    /** Every how many days each disk's newest image is rehearsed; 0 for only by hand. */
    int scheduleDays() {
        return database.sql("select days from rehearsal_schedule where id = 1").query(Integer.class).single();
    }

    void schedule(int days, String who) {
        database.sql("update rehearsal_schedule set days = ? where id = 1").param(days).update();
        journal.add(who, "schedule rehearsals", "the office", Journal.Result.DONE, days == 0 ? "Rehearsals are made by hand only." : "Each disk's newest image is rehearsed every " + days + " days, when nobody works.");
    }

    /** One at a time, when the office is closed; an encrypted image needs a person, and one whose drive is away waits for it. */
    @Scheduled(initialDelay = 900_000, fixedDelay = 1_800_000)
    void look() throws IOException {
        int days = scheduleDays();
        if (days == 0 || choices.openNow()) {
            return;
        }
        Set<String> attached = site.destinations().stream().filter(Destination::attached).map(Destination::id).collect(Collectors.toSet());
        Instant since = clock.instant().minus(Duration.ofDays(days));
        for (List<Images.Standings> ofDisk : images.standingsByDisk().values()) {
            Optional<Images.Standings> newest = ofDisk.stream().filter(image -> !image.paper() && !image.encrypted() && image.standing().sound() && attached.contains(image.destinationId())).findFirst();
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
        return Files.createDirectories(settings.home().resolve("evidence")).resolve(id + ".png");
    }

    @Override
    public Set<OtherRuns.Kind> kinds() {
        return Set.of(OtherRuns.Kind.REHEARSAL);
    }

    @Override
    public List<DeviceClaim> claims(UUID runId) {
        Images.Shelved image = images.shelved(repository.findByRunId(runId).orElseThrow(() -> Refused.notFound("rehearsal")).imageId());
        List<DeviceClaim> out = new ArrayList<>(devices.storing(image.destinationId(), image.destination()));
        out.add(devices.scratch());
        return out;
    }

    @Override
    public String perform(UUID runId, Passphrase passphrase, Watch watch) throws IOException {
        Rehearsal asked = repository.findByRunId(runId).orElseThrow(() -> Refused.notFound("rehearsal"));
        long began = System.nanoTime();
        Workbench.Rehearsed rehearsed = site.workbench().rehearse(images.at(asked.imageId(), passphrase), picture(asked.id()), watch);
        images.recordCheck(asked.imageId(), rehearsed.outcome(), (System.nanoTime() - began) / 1e9, asked.askedBy());
        if (!rehearsed.outcome().ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, "", rehearsed.outcome().problems().get(0).message()).asException();
        }
        rehearsed.seen().ifPresent(seen -> {
            asked.saw(seen.picture(), seen.rested(), seen.serial());
            repository.save(asked);
        });
        return "It was restored onto scratch and is what was read of the disk. " + rehearsed.seen().map(seen -> "Started there" + (seen.rested() ? ", its screen came to rest" : ", its screen had not come to rest when it was left")
            + "; the picture is kept. Look at it, and judge.").orElse("It was not started: " + rehearsed.notStarted());
    }

    @Override
    public void ended(UUID runId, boolean done, String sentence) {
        repository.findByRunId(runId).ifPresent(asked -> {
            asked.end(done, sentence, clock.instant());
            repository.save(asked);
        });
    }
}
