package app.granary.server.today;

import app.granary.core.destination.Destination;
import app.granary.core.reconciliation.Difference;
import app.granary.core.today.TodayFacts;
import app.granary.server.agent.ComputersByAgent;
import app.granary.server.capture.Captures;
import app.granary.server.capture.UnfinishedController;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.database.Copies;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.journal.JournalEndFile;
import app.granary.server.plan.Plans;
import app.granary.server.reconciliation.Reconciliation;
import app.granary.server.rescue.RescueMedia;
import app.granary.server.restore.RestorationRecords;
import app.granary.server.retention.DamagedImages;
import app.granary.server.retention.Releases;
import app.granary.server.run.Troubles;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Gathers what the morning's list is made of. */
@Component
class Morning {
    private static final Duration TOLD_FOR = Duration.ofDays(7);
    private static final Duration SILENT_FOR = Duration.ofHours(24);

    private final Troubles troubles;
    private final Captures captures;
    private final Releases releases;
    private final Reconciliation reconciliation;
    private final DamagedImages damaged;
    private final Destinations destinations;
    private final ComputersOnRecord computers;
    private final Plans plans;
    private final Copies copies;
    private final RescueMedia media;
    private final RestorationRecords restorations;
    private final JournalEndFile journalEnd;
    private final ComputersByAgent byAgent;
    private final Clock clock;

    Morning(Troubles troubles, Captures captures, Releases releases, Reconciliation reconciliation, DamagedImages damaged,
        Destinations destinations, ComputersOnRecord computers, Plans plans, Copies copies,
        RescueMedia media, RestorationRecords restorations, JournalEndFile journalEnd, ComputersByAgent byAgent, Clock clock) {
        this.byAgent = byAgent;
        this.troubles = troubles;
        this.captures = captures;
        this.releases = releases;
        this.reconciliation = reconciliation;
        this.damaged = damaged;
        this.destinations = destinations;
        this.computers = computers;
        this.plans = plans;
        this.copies = copies;
        this.media = media;
        this.restorations = restorations;
        this.journalEnd = journalEnd;
        this.clock = clock;
    }

    TodayFacts facts(List<UnfinishedController.UnfinishedLine> left, List<Images.Standings> standings, List<TodayFacts.Disk> disks)
        throws IOException {
        Instant now = clock.instant();
        List<Difference> differences = reconciliation.differences();
        Map<String, List<String>> missing = differences.stream().filter(each -> each.kind() == Difference.Kind.MISSING)
            .map(Difference::driveId).distinct()
            .collect(Collectors.toMap(drive -> drive, drive -> reconciliation.missingOn(drive).stream().map(UUID::toString).toList()));
        return new TodayFacts(now, journalEnd.missing(), journalEnd.failing(),
            restorations.unsigned().stream()
                .map(each -> new TodayFacts.Unsigned(each.forComputer(), each.imageName(), each.target(), each.failed(), each.outcome()))
                .toList(),
            damaged(standings), differences, missing, disks, captures.disks(),
            left.stream().map(each -> new TodayFacts.Unfinished(each.disk(), each.name(), each.why(), each.carryable(), each.doneShare()))
                .toList(),
            troubles.since(now.minus(TOLD_FOR)).stream()
                .map(run -> new TodayFacts.Trouble(run.id().toString(), run.subject(), run.kind(), run.imageName(), run.waits(),
                    run.outcome()))
                .toList(),
            releases.troubled().stream().map(each -> new TodayFacts.Unreleased(each.imageName(), each.trouble())).toList(),
            drives(standings), media.due().stream().map(each -> new TodayFacts.Medium(each.name(), each.why())).toList(), computers(),
            copies.newest(), byAgent.silentFor(SILENT_FOR).stream().map(each -> new TodayFacts.Silent(each.name(),
            each.heardAt())).toList());
    }

    private List<TodayFacts.Damaged> damaged(List<Images.Standings> standings) {
        Set<UUID> missing = reconciliation.missing();
        List<Images.Standings> there = standings.stream().filter(image -> image.standing().damaged() && !missing.contains(image.id()))
            .toList();
        var ways = damaged.ways(there);
        return there.stream().map(image -> new TodayFacts.Damaged(image.id().toString(), image.imageId().toString(), image.name(),
            image.destination(), ways.get(image.id()))).toList();
    }

    private List<TodayFacts.Drive> drives(List<Images.Standings> standings) throws IOException {
        Map<String, Instant> newest = standings.stream().collect(
            Collectors.toMap(Images.Standings::destinationId, Images.Standings::madeAt, (one, other) -> one.isAfter(other) ? one : other));
        Map<String, Destinations.Place> places = destinations.places();
        return destinations.now().stream().sorted(Comparator.comparing(Destination::name)).map(drive -> {
            Destinations.Place place = places.getOrDefault(drive.id(), Destinations.Place.UNKNOWN);
            return new TodayFacts.Drive(drive.id(), drive.name(), drive.attached(), place.kind(), place.since(), place.rotation(),
                newest.getOrDefault(drive.id(), Instant.EPOCH));
        }).toList();
    }

    /** Those that a plan is for. */
    private List<TodayFacts.Computer> computers() {
        Set<String> planned = plans.all().stream().map(saved -> saved.plan().source().computer()).collect(Collectors.toSet());
        return computers.all().stream().filter(computer -> planned.contains(computer.name()))
            .map(computer -> new TodayFacts.Computer(computer.id().toString(), computer.name(), computer.filesSavedOn())).toList();
    }
}
