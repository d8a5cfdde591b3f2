package app.granary.server.firstday;

import app.granary.core.cover.TwoPlaces;
import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.core.firstday.FirstDay;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.host.ImageStore;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import app.granary.server.rescue.RescueMedia;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** What is so in this office, as far as its first day goes. */
@Service
class FirstDays {
    private final OfficeChoices office;
    private final OfficeDays days;
    private final Destinations destinations;
    private final ComputersOnRecord computers;
    private final DisksOnRecord disks;
    private final Images images;
    private final Plans plans;
    private final RescueMedia media;

    FirstDays(OfficeChoices office, OfficeDays days, Destinations destinations, ComputersOnRecord computers, DisksOnRecord disks,
        Images images, Plans plans, RescueMedia media) {
        this.office = office;
        this.days = days;
        this.destinations = destinations;
        this.computers = computers;
        this.disks = disks;
        this.images = images;
        this.plans = plans;
        this.media = media;
    }

    FirstDay.Facts facts() throws IOException {
        List<DisksOnRecord.DiskOnRecord> onRecord = disks.all();
        List<ComputersOnRecord.ComputerOnRecord> known = computers.all();
        Map<String, UUID> computerOf = onRecord.stream().collect(Collectors.toMap(DisksOnRecord.DiskOnRecord::id,
            DisksOnRecord.DiskOnRecord::computerId));
        Set<UUID> planned = plans.all().stream().map(saved -> computerOf.get(saved.plan().source().diskId()))
            .filter(java.util.Objects::nonNull).collect(Collectors.toSet());
        List<Images.Standings> seen = images.standings().stream().filter(image -> !image.paper()).toList();
        return new FirstDay.Facts(office.choices().name(), hours(days.days().calendar()), office.isSaved(),
            destinations.now().stream().filter(each -> each.attached()
                && !each.id().equals(ImageStore.OWN_FOLDER)).map(Destination::name).toList(),
            known.size(), onRecord.size(), (int) seen.stream().map(Images.Standings::imageId).distinct().count(),
            seen.stream().anyMatch(image -> image.standing().level().map(level -> level.includes(ProofLevel.REHEARSED)).orElse(false)),
            planned.size(), (int) media.startingAny(), twoPlaces(seen));
    }

    private int twoPlaces(List<Images.Standings> seen) {
        Map<String, Destinations.Place> places = destinations.places();
        Map<String, List<PlaceKind>> kinds = seen.stream().filter(image -> image.standing().sound())
            .collect(Collectors.groupingBy(Images.Standings::diskId, Collectors.mapping(image -> places.getOrDefault(image.destinationId(),
                Destinations.Place.UNKNOWN).kind(), Collectors.toList())));
        return (int) kinds.values().stream().filter(each -> TwoPlaces.missing(each).isEmpty()).count();
    }

    private static String hours(OfficeCalendar calendar) {
        return "open " + calendar.opens() + " to " + calendar.closes();
    }
}
