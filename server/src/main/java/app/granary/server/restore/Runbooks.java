package app.granary.server.restore;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Encryption;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.layout.Step;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.ProofLevel;
import app.granary.core.runbook.Runbook;
import app.granary.core.runbook.RunbookFacts;
import app.granary.core.restore.RestoreTime;
import app.granary.core.target.TargetDisk;
import app.granary.engine.host.Links;
import app.granary.engine.host.ImageStore;
import app.granary.server.home.Pace;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeDays;
import app.granary.server.problem.Refused;
import app.granary.server.rescue.RescueMedia;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Writes runbooks from what this office knows at that moment. */
@Component
class Runbooks {
    private final ComputersOnRecord computers;
    private final Images images;
    private final Destinations destinations;
    private final RescueMedia media;
    private final OfficeDays office;
    private final ImageStore store;
    private final Sources sources;
    private final Pace pace;
    private final GranarySettings settings;
    private final Journal journal;
    private final Clock clock;

    Runbooks(ComputersOnRecord computers, Images images, Destinations destinations, RescueMedia media, OfficeDays office, ImageStore store,
        Sources sources, Pace pace, GranarySettings settings, Journal journal, Clock clock) {
        this.computers = computers;
        this.images = images;
        this.destinations = destinations;
        this.media = media;
        this.office = office;
        this.store = store;
        this.sources = sources;
        this.pace = pace;
        this.settings = settings;
        this.journal = journal;
        this.clock = clock;
    }

    private Optional<ComputersOnRecord.ComputerOnRecord> computer(String name) {
        return computers.all().stream().filter(each -> each.name().equalsIgnoreCase(name)).findFirst();
    }

    /** What must be looked at before it is signed. */
    List<String> checks(Restoration restoration) {
        List<String> out = new ArrayList<>(computer(restoration.forComputer())
            .map(each -> Runbook.checks(each.role(), each.facts().encryption(), each.checks()))
            .orElseGet(() -> Runbook.checks("", Encryption.UNKNOWN, List.of())));
        if (restoration.kind() == Restoration.Kind.ROLLOUT) {
            Runbook.UNIQUE
                .forEach(each -> out.add("Made unique: " + each.substring(0, 1).toLowerCase(java.util.Locale.ROOT) + each.substring(1)));
        }
        return out;
    }

    Runbook of(Sources.Source source, Optional<TargetDisk> target, RestoreLayout layout, String forComputer) throws IOException {
        List<String> moves = new ArrayList<>();
        layout.placed().stream().filter(Placed::moved).forEach(each -> moves
            .add(sentence(each.to().label() + " moves, to " + Sizes.decimal(each.to().startBytes()) + " from the start of the target.")));
        layout.placed().stream().filter(Placed::shrunk).forEach(each -> moves.add(sentence(each.to().label() + " is made smaller, down to "
            + Sizes.decimal(each.to().sizeBytes()) + ", in a scratch file before the target is touched.")));
        if (layout.unallocatedBytes() > 0) {
            moves.add(Sizes.decimal(layout.unallocatedBytes()) + " of the target stay unallocated.");
        }
        List<String> after = layout.steps().stream().filter(each -> each.when() == Step.When.AFTER)
            .map(each -> sentence(each.sentence()) + (each.command().isEmpty() ? "" : " " + each.command())).toList();
        return Runbook.of(facts(source, forComputer, target, layout.scratchBytes(), moves, after), clock.instant(),
            office.days().calendar().zone());
    }

    private static String sentence(String words) {
        return words.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + words.substring(1);
    }

    private RunbookFacts facts(Sources.Source source, String forComputer, Optional<TargetDisk> target, long scratchBytes,
        List<String> moves, List<String> after) throws IOException {
        Optional<ComputersOnRecord.ComputerOnRecord> computer = computer(forComputer);
        Optional<Images.Standings> image = source.imageId()
            .flatMap(id -> images.standings().stream().filter(each -> each.id().equals(id)).findFirst());
        Optional<Destination> drive = image.flatMap(found -> driveOf(found.destinationId()));
        Destinations.Place place = image.map(found -> destinations.places().get(found.destinationId())).orElse(null);
        String lies = place == null || place.kind() == PlaceKind.UNKNOWN ? drive.map(Destination::place).orElse("in the computer")
            : place.kind().words(place.exactly());
        // links of a made-up office are quicker than the clock
        double times = Math.max(1, pace.times());
        return new RunbookFacts(forComputer, computer.map(ComputersOnRecord.ComputerOnRecord::role).orElse(""),
            computer.map(ComputersOnRecord.ComputerOnRecord::owner).orElse(""),
            computer.map(ComputersOnRecord.ComputerOnRecord::facts).orElse(ComputerFacts.UNKNOWN), source.imageName(), source.madeAt(),
            image.flatMap(found -> found.standing().level()).map(ProofLevel::word).orElse(""),
            image.map(Images.Standings::destination).orElse("its own disk"), lies, drive.map(Destination::attached).orElse(true),
            place != null && place.kind() == PlaceKind.OFF_SITE, image.map(Images.Standings::encrypted).orElse(false),
            source.imageId().map(images::codecOf).orElse("none"),
            target.map(TargetDisk::inFull), computer.map(found -> media.starting(found.id())).orElse(List.of()),
            (int) office.days().perBoot().toMinutes(),
            new RestoreTime.Bytes(source.bytes(), source.usedBytes(), scratchBytes),
            new RestoreTime.Rates(Math.max(1, target.map(found ->
            source.routeTo(found).slowed(source.rateBytes())).orElse(source.rateBytes()) / times),
                target.map(found -> Math.max(1, found.writeRateBytes() / times)).orElse((double) Links.SATA)),
            moves, after, computer.map(ComputersOnRecord.ComputerOnRecord::checks).orElse(List.of()));
    }

    private Optional<Destination> driveOf(String id) {
        try {
            return destinations.now().stream().filter(each -> each.id().equals(id)).findFirst();
        } catch (IOException unknown) {
            return Optional.empty();
        }
    }

    /** @return where it lies now, as a sentence */
    String export(UUID imageId, String who) throws IOException {
        Images.Standings image = images.standings().stream().filter(each -> each.id().equals(imageId)).findFirst()
            .orElseThrow(() -> Refused.notFound("image"));
        Runbook book = Runbook.of(
            facts(sources.described(imageId), image.computer(), Optional.empty(), 0, List.of(), List.of()), clock.instant(),
            office.days().calendar().zone());
        String name = image.name() + "-runbook.html";
        store.putFile(image.destinationId(), "granary-runbooks", name,
            new ByteArrayInputStream(RunbookHtml.of(book).getBytes(StandardCharsets.UTF_8)));
        String sentence = "The runbook for " + image.computer() + " lies on " + image.destination() + " now, as granary-runbooks/" + name
            + ".";
        journal.add(who, "export runbook", image.computer(), Journal.Result.DONE, sentence);
        return sentence;
    }
}
