package app.granary.server.today;

import app.granary.core.cover.Cover;
import app.granary.core.cover.TwoPlaces;
import app.granary.core.destination.PlaceKind;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.today.TodayFacts;
import app.granary.server.capture.Captures;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import app.granary.server.restore.RestorationRecords;
import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** How every disk of the office stands. */
@Component
class CoverLines {
    private final DisksOnRecord disks;
    private final Plans plans;
    private final Destinations destinations;
    private final OfficeDays office;
    private final RestorationRecords restorations;
    private final Captures captures;
    private final Clock clock;

    CoverLines(DisksOnRecord disks, Plans plans, Destinations destinations, OfficeDays office, RestorationRecords restorations,
        Captures captures,
        Clock clock) {
        this.captures = captures;
        this.disks = disks;
        this.plans = plans;
        this.destinations = destinations;
        this.office = office;
        this.restorations = restorations;
        this.clock = clock;
    }

    /**
     * A disk and what there is of it.
     *
     * @param newest when its newest image that is not damaged was made; null without one
     * @param since  when the oldest image that is proven sound was made; null without one
     * @param due    the night its plan wants the next one; null without a plan
     * @param state  "covered", "due", "late", "never", "unproven", "partly" or "unplanned"
     * @param places what is missing of two kinds of place, one off site; an empty string when nothing is
     */
    record CoverLine(UUID computerId, String computer, String disk, String diskId, @Schema(types = {
        "string", "null"}) Instant newest, @Schema(types = {"string", "null"}) Instant since, int proof, boolean stale, String lies,
        @Schema(types = {"string", "null"}) LocalDate due, String state, String words, String places){
    }

    /** The same for the screen and for the rules. */
    record Covered(CoverLine line, TodayFacts.Disk disk) {
    }

    /** What besides images stands for a disk, in words behind how it is covered. */
    private record Besides(Set<String> spared, Set<String> queued) {
        String words(String diskId) {
            return (spared.contains(diskId) ? "; a spare is ready" : "") + (queued.contains(diskId) ? "; in the queue" : "");
        }
    }

    /** @param byDisk every kept image by its disk, newest first */
    List<Covered> of(Map<String, List<Images.Standings>> byDisk) {
        Map<String, List<Plans.Saved>> planned = plans.all().stream().filter(saved -> !saved.paused())
            .collect(Collectors.groupingBy(saved -> saved.plan().source().diskId()));
        Map<String, Destinations.Place> places = destinations.places();
        Set<String> spared = restorations.spares().stream().filter(RestorationRecords.Spare::booted).map(RestorationRecords.Spare::diskId)
            .collect(Collectors.toSet());
        OfficeCalendar calendar = office.days().calendar();
        LocalDate tonight = calendar.nightOf(clock.instant());
        Besides besides = new Besides(spared, captures.disks());
        return disks.all().stream()
            .sorted(Comparator.comparing(DisksOnRecord.DiskOnRecord::computer).thenComparing(DisksOnRecord.DiskOnRecord::name))
            .map(disk -> line(disk, byDisk.getOrDefault(disk.id(), List.of()),
                planned.getOrDefault(disk.id(), List.of()), places, calendar, tonight, besides))
            .toList();
    }

    private Covered line(DisksOnRecord.DiskOnRecord disk, List<Images.Standings> images, List<Plans.Saved> planned,
        Map<String, Destinations.Place> places, OfficeCalendar calendar, LocalDate tonight, Besides besides) {
        Optional<Images.Standings> newest = Optional.empty();
        List<Images.Standings> proven = new ArrayList<>();
        for (Images.Standings image : images) { // each visit looks at all images of the office
            if (image.standing().damaged() || image.paper() || image.lacks().diesWithItsDisk()) {
                continue;
            }
            // what lacks a part of the disk stands for it only where nothing holds all of it
            if (newest.isEmpty() || image.lacks().nothing() && !newest.get().lacks().nothing()) {
                newest = Optional.of(image);
            }
            if (image.standing().sound()) {
                proven.add(image);
            }
        }
        Optional<LocalDate> due = planned.stream().flatMap(saved -> plans.due(saved, calendar).stream()).min(Comparator.naturalOrder());
        String partly = proven.isEmpty() || proven.stream().anyMatch(image -> image.lacks().nothing()) ? "" : proven.get(0).lacks().words();
        Cover cover = Cover.of(newest.isPresent(), !proven.isEmpty(), partly, !planned.isEmpty(), due, tonight);
        List<PlaceKind> kinds = proven.stream().filter(image -> image.lacks().nothing() == partly.isEmpty())
            .map(image -> Optional.ofNullable(places.get(image.destinationId())).map(Destinations.Place::kind).orElse(PlaceKind.UNKNOWN))
            .toList();
        String missing = proven.isEmpty() ? "" : TwoPlaces.missing(kinds).orElse("");
        CoverLine line = new CoverLine(disk.computerId(), disk.computer(), disk.name(), disk.id(),
            newest.map(Images.Standings::madeAt).orElse(null),
            proven.stream().map(Images.Standings::madeAt).min(Comparator.naturalOrder()).orElse(null),
            newest.flatMap(image -> image.standing().level()).map(level -> level.ordinal() + 1).orElse(0),
            newest.map(image -> image.standing().stale(clock.instant())).orElse(false),
            newest.map(Images.Standings::destination).orElse(""), due.orElse(null), cover.state().word(),
            cover.words() + besides.words(disk.id()) + (images.stream().anyMatch(image -> image.lacks().diesWithItsDisk())
                ? "; a quick roll-back image lies on the disk itself" : ""), missing);
        return new Covered(line, new TodayFacts.Disk(disk.computerId().toString(), disk.computer(), disk.name(), disk.id(), cover.state(),
            due.isPresent(), due.filter(tonight::equals).isPresent(), line.words(), missing));
    }
}
