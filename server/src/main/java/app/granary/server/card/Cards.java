package app.granary.server.card;

import app.granary.core.card.Card;
import app.granary.core.card.CardFacts;
import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.core.proof.ProofLevel;
import app.granary.core.restore.RestoreTime;
import app.granary.engine.host.Links;
import app.granary.server.home.Pace;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeDays;
import app.granary.server.problem.Refused;
import app.granary.server.rescue.RescueMedia;
import app.granary.server.restore.RestorationRecords;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** Writes the cards from what is known at that moment. */
@Service
public class Cards {
    private final ComputersOnRecord computers;
    private final DisksOnRecord disks;
    private final Images images;
    private final Destinations destinations;
    private final OfficeDays office;
    private final RescueMedia media;
    private final RestorationRecords restorations;
    private final Pace pace;
    private final Clock clock;

    Cards(ComputersOnRecord computers, DisksOnRecord disks, Images images, Destinations destinations, OfficeDays office, RescueMedia media,
        RestorationRecords restorations, Pace pace, Clock clock) {
        this.computers = computers;
        this.disks = disks;
        this.images = images;
        this.destinations = destinations;
        this.office = office;
        this.media = media;
        this.restorations = restorations;
        this.pace = pace;
        this.clock = clock;
    }

    record Named(UUID computerId, Card card) {
    }

    /** In order of name. */
    List<Named> all() throws IOException {
        OfficeDays.Days days = office.days();
        Map<String, List<Images.Standings>> byDisk = images.standingsByDisk();
        Map<String, Destination> drives = destinations.now().stream().collect(Collectors.toMap(Destination::id, Function.identity()));
        Map<String, Destinations.Place> places = destinations.places();
        Map<String, List<RestorationRecords.Spare>> spares = restorations.spares().stream()
            .collect(Collectors.groupingBy(RestorationRecords.Spare::diskId));
        Map<UUID, List<DisksOnRecord.DiskOnRecord>> disksOf = disks.all().stream()
            .collect(Collectors.groupingBy(DisksOnRecord.DiskOnRecord::computerId));
        List<Named> out = new ArrayList<>();
        for (ComputersOnRecord.ComputerOnRecord computer : computers.all()) {
            List<CardFacts.OfDisk> own = disksOf.getOrDefault(computer.id(), List.of()).stream()
                .map(disk -> new CardFacts.OfDisk(disk.name(), disk.identity(),
                    of(byDisk, disk.id(), false).map(image -> copy(image, disk, drives, places)).toList(),
                    of(byDisk, disk.id(), true).map(image -> copy(image, disk, drives, places)).findFirst(),
                    spares.getOrDefault(disk.id(), List.of()).stream()
                        .map(spare -> new CardFacts.Spare(spare.name() + ", serial " + spare.serial(), spare.madeAt(), spare.booted(),
                            spare.place(), spare.flaw()))
                        .toList()))
                .toList();
            out.add(new Named(computer.id(),
                Card.of(
                    new CardFacts(computer.name(), computer.role(), computer.owner(), computer.facts(), (int) days.perBoot().toMinutes(),
                        computer.filesSavedOn(), media.starting(computer.id()), own),
                    clock.instant(), days.calendar().zone())));
        }
        return out;
    }

    /** @param rollBack whether those that lie on the disk itself are meant, or all others */
    private static Stream<Images.Standings> of(Map<String, List<Images.Standings>> byDisk, String diskId, boolean rollBack) {
        return byDisk.getOrDefault(diskId, List.of()).stream().filter(image -> !image.paper() && !image.standing().damaged())
            .filter(image -> image.lacks().diesWithItsDisk() == rollBack);
    }

    Named one(UUID computerId) throws IOException {
        return all().stream().filter(each -> each.computerId().equals(computerId)).findFirst()
            .orElseThrow(() -> Refused.notFound("computer"));
    }

    private CardFacts.Copy copy(Images.Standings image, DisksOnRecord.DiskOnRecord disk, Map<String, Destination> drives,
        Map<String, Destinations.Place> places) {
        Destination drive = drives.get(image.destinationId());
        Destinations.Place place = places.getOrDefault(image.destinationId(), Destinations.Place.UNKNOWN);
        boolean sound = image.standing().sound();
        // a drive that is away comes back to the port it has; what it was measured at is kept
        double link = drive == null ? Links.USB_3 : Math.max(1, drive.writeRateBytes() / pace.times());
        return new CardFacts.Copy(image.name(), image.madeAt(), sound, image.standing().level().map(ProofLevel::word).orElse(""),
            image.lacks().words(), image.destination(), place.kind(),
            place.kind() == PlaceKind.UNKNOWN && drive != null ? drive.place() : place.exactly(), drive != null && drive.attached(),
            image.encrypted(),
            new RestoreTime.Bytes(image.storedBytes(), Math.max(disk.toReadBytes(), image.storedBytes())),
            new RestoreTime.Rates(link, Links.SATA));
    }
}
