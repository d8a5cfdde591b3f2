package app.granary.server.today;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.database.Copies;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.journal.JournalEndFile;
import app.granary.server.plan.Plans;
import app.granary.server.reconciliation.Difference;
import app.granary.server.reconciliation.Reconciliation;
import app.granary.server.rescue.RescueMedia;
import app.granary.server.retention.DamagedImages;
import app.granary.server.restore.Restorations;
import app.granary.server.retention.Releases;
import app.granary.server.run.Runs;
import app.granary.server.run.Troubles;
import app.granary.server.run.UnfinishedController;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What needs a person, in order of consequence: what may be lost, what failed, what is late, what will be late, what is to be carried. */
@Component
class Todos {
    private static final Duration TOLD_FOR = Duration.ofDays(7);
    private static final Duration SWAPPED_AFTER = Duration.ofDays(7);
    private static final Duration COPY_STANDS = Duration.ofHours(50);
    /** Files that were saved longer ago than this are told of (common practice, no source). */
    private static final int FILES_STAND_DAYS = 31;

    private final Troubles troubles;
    private final Runs runs;
    private final Releases releases;
    private final Reconciliation reconciliation;
    private final DamagedImages damaged;
    private final Destinations destinations;
    private final ComputersOnRecord computers;
    private final Plans plans;
    private final Copies copies;
    private final RescueMedia media;
    private final Restorations restorations;
    private final JournalEndFile journalEnd;
    private final Clock clock;

    Todos(Troubles troubles, Runs runs, Releases releases, Reconciliation reconciliation, DamagedImages damaged, Destinations destinations, ComputersOnRecord computers, Plans plans, Copies copies, RescueMedia media, Restorations restorations, JournalEndFile journalEnd, Clock clock) {
        this.journalEnd = journalEnd;
        this.troubles = troubles;
        this.runs = runs;
        this.releases = releases;
        this.reconciliation = reconciliation;
        this.damaged = damaged;
        this.destinations = destinations;
        this.computers = computers;
        this.plans = plans;
        this.copies = copies;
        this.media = media;
        this.restorations = restorations;
        this.clock = clock;
    }

    List<Todo> of(List<UnfinishedController.UnfinishedLine> left, List<Images.Standings> standings, List<CoverLines.CoverLine> cover) throws IOException {
        List<Todo> out = new ArrayList<>();
        journalEnd.missing().ifPresent(what -> out.add(Todo.there("journal", "The journal lost lines", what + " Look through the drives, and compare with the copies of the database.", "/journal")));
        journalEnd.failing().ifPresent(why -> out.add(Todo.there("journal", "The end of the journal cannot be noted", why + " Lines that are lost now would not be missed.", "/journal")));
        restorations.unsigned().forEach(each -> out.add(Todo.there("restore", each.failed() ? each.forComputer() + " is not back yet" : each.forComputer() + " waits to be signed", each.failed() ? each.outcome()
            : each.imageName() + " was written onto " + each.target() + " and compared. Look at it, tick what you looked at, and sign.", "/restore")));
        damaged(standings, out);
        List<Difference> differences = reconciliation.differences();
        differences.stream().filter(each -> each.kind() == Difference.Kind.MISSING).forEach(each -> out.add(todo(each)));
        Set<String> capturing = runs.capturing();
        uncovered(cover, capturing, out);
        left.forEach(each -> out.add(Todo.there("unfinished", (each.disk().isEmpty() ? "" : each.disk() + ": ") + each.name() + " is not finished", (each.why().isEmpty() ? "A capture did not come to its end." : each.why()) + " "
            + (each.carryable() ? Math.round(each.doneShare() * 100) + " % of the disk is there." : "It cannot be carried on, only discarded."), "/runs")));
        failed(left, out);
        late(cover, capturing, out);
        releases.troubled().forEach(each -> out.add(new Todo("release", each.imageName() + " could not be released", each.trouble(), "/retention", "release-again", "Try again", "")));
        differences.stream().filter(each -> each.kind() != Difference.Kind.MISSING).forEach(each -> out.add(todo(each)));
        rotation(standings, out);
        places(cover, out);
        media.due().forEach(each -> out.add(Todo.there("medium", each.name() + " is to be tried", each.why(), "/rescue-media")));
        files(out);
        copy(out);
        return out;
    }

    private void damaged(List<Images.Standings> standings, List<Todo> out) {
        Set<UUID> missing = reconciliation.missing();
        List<Images.Standings> there = standings.stream().filter(image -> image.standing().damaged() && !missing.contains(image.id())).toList();
        Map<UUID, DamagedImages.Way> ways = damaged.ways(there);
        there.forEach(image -> out.add(todo(image, ways.get(image.id()))));
    }

    private Todo todo(Difference each) {
        return switch (each.kind()) {
            case MISSING -> new Todo("missing", each.title(), each.sentence(), "/images", "write-off", each.names().size() == 1 ? "It is gone for good" : "They are gone for good",
                reconciliation.missingOn(each.driveId()).stream().map(UUID::toString).collect(Collectors.joining(",")));
            case UNKNOWN_IMAGES -> Todo.there("unknown", each.title(), each.sentence(), "/images/elsewhere");
            case UNKNOWN_IN_TRASH -> Todo.there("trash", each.title(), each.sentence(), "/destinations");
        };
    }

    private static Todo todo(Images.Standings image, DamagedImages.Way way) {
        String title = image.name() + " on " + image.destination() + " is damaged";
        String to = "/images/" + image.id();
        return switch (way.kind()) {
            case MEND -> new Todo("damaged", title, "Its last check found damage. " + way.sentence(), to, "mend", "Mend it from the copy", image.id() + "," + way.copy());
            case RELEASE -> new Todo("damaged", title, "Its last check found damage. " + way.sentence(), to, "release", "Release it", image.imageId().toString());
            case CAPTURE -> Todo.there("damaged", title, "Its last check found damage. " + way.sentence(), to);
        };
    }

    private void uncovered(List<CoverLines.CoverLine> cover, Set<String> capturing, List<Todo> out) {
        cover.stream().filter(each -> each.state().equals("never") && each.due() == null && !capturing.contains(each.diskId())).forEach(each -> out.add(Todo.there("never", each.computer() + " " + each.disk() + " has no image",
            "No plan makes one either. Make a plan, or an image by hand.", "/computers/" + each.computerId())));
        cover.stream().filter(each -> each.state().equals("unproven") && !capturing.contains(each.diskId())).forEach(each -> out.add(new Todo("unproven", "No image of " + each.computer() + " " + each.disk() + " is proven",
            "Nobody knows whether it would come back. Check the newest; its drive must be attached.", "/images", "check-disk", "Check it now", each.diskId())));
    }

    private void failed(List<UnfinishedController.UnfinishedLine> left, List<Todo> out) {
        troubles.since(clock.instant().minus(TOLD_FOR)).stream().filter(run -> left.stream().noneMatch(each -> each.name().equals(run.imageName()))).forEach(run -> out.add(run.waits()
            ? Todo.there("waiting", run.subject() + " waits for its passphrase", run.outcome(), "/runs")
            : new Todo("failed", run.subject() + ": the " + run.kind() + " failed", run.outcome(), "/runs", "seen", "I have seen it", run.id().toString())));
    }

    private void late(List<CoverLines.CoverLine> cover, Set<String> capturing, List<Todo> out) {
        cover.stream().filter(each -> each.state().equals("late") && !capturing.contains(each.diskId())).forEach(each -> out.add(Todo.there("overdue", each.computer() + " " + each.disk() + " is late", sentence(each.words())
            + " It needs a person to boot it, and a drive; the night's plan says when.", "/night")));
    }

    private static String sentence(String words) {
        return words.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + words.substring(1) + ".";
    }

    private void rotation(List<Images.Standings> standings, List<Todo> out) throws IOException {
        Map<String, Destination> drives = destinations.now().stream().collect(Collectors.toMap(Destination::id, Function.identity()));
        Map<String, Destinations.Place> places = destinations.places();
        Instant now = clock.instant();
        Map<String, List<Destination>> groups = drives.values().stream().filter(d -> !places.get(d.id()).rotation().isEmpty())
            .collect(Collectors.groupingBy(d -> places.get(d.id()).rotation(), TreeMap::new, Collectors.toList()));
        groups.forEach((group, members) -> {
            boolean anyAway = members.stream().anyMatch(d -> kind(places, d) == PlaceKind.OFF_SITE || kind(places, d) == PlaceKind.SAFE);
            for (Destination drive : members) {
                if (drive.attached() && (kind(places, drive) == PlaceKind.OFF_SITE || kind(places, drive) == PlaceKind.SAFE)) {
                    out.add(new Todo("place", drive.name() + " is attached, and noted as " + places.get(drive.id()).kind().phrase(), "Say where it lies, so that a card sends nobody to the wrong place.", "/destinations", "here",
                        "It is here", drive.id()));
                }
            }
            if (members.size() > 1 && !anyAway && members.stream().allMatch(d -> kind(places, d) != PlaceKind.UNKNOWN && places.get(d.id()).since().plus(SWAPPED_AFTER).isBefore(now))) {
                Optional<Destination> leaves = members.stream().max(Comparator.comparing(d -> newestOn(standings, d.id())));
                leaves.ifPresent(drive -> out.add(new Todo("rotation", drive.name() + " is to be taken off site", "All of the " + group + " are here, for more than " + SWAPPED_AFTER.toDays()
                    + " days. " + drive.name() + " has the newest images: eject it, and take it away.", "/destinations", "off-site", "It is off site now", drive.id())));
            }
        });
    }

    private static PlaceKind kind(Map<String, Destinations.Place> places, Destination drive) {
        return places.get(drive.id()).kind();
    }

    private static Instant newestOn(List<Images.Standings> standings, String driveId) {
        return standings.stream().filter(image -> image.destinationId().equals(driveId)).map(Images.Standings::madeAt).max(Comparator.naturalOrder()).orElse(Instant.EPOCH);
    }

    private static void places(List<CoverLines.CoverLine> cover, List<Todo> out) {
        Map<String, List<CoverLines.CoverLine>> missing = cover.stream().filter(each -> !each.places().isEmpty()).collect(Collectors.groupingBy(CoverLines.CoverLine::places, TreeMap::new, Collectors.toList()));
        missing.forEach((what, disks) -> out.add(Todo.there("places", (disks.size() == 1 ? "One disk lies" : disks.size() + " disks lie") + " in too few places", names(disks) + ": " + what + ".", "/destinations")));
    }

    private static String names(List<CoverLines.CoverLine> disks) {
        return disks.stream().map(CoverLines.CoverLine::computer).distinct().collect(Collectors.joining(", "));
    }

    private void files(List<Todo> out) {
        LocalDate oldest = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC).minusDays(FILES_STAND_DAYS);
        Set<String> planned = plans.all().stream().map(saved -> saved.plan().source().computer()).collect(Collectors.toSet());
        List<ComputersOnRecord.ComputerOnRecord> old = computers.all().stream().filter(c -> planned.contains(c.name()) && c.filesSavedOn().map(on -> on.isBefore(oldest)).orElse(true)).toList();
        if (!old.isEmpty()) {
            out.add(new Todo("files", "Files of " + (old.size() == 1 ? old.get(0).name() : old.size() + " computers") + " may not be saved", old.stream().map(ComputersOnRecord.ComputerOnRecord::name)
                .collect(Collectors.joining(", ")) + ": nobody noted within " + FILES_STAND_DAYS + " days that their files were saved by other means. An image is no substitute.", "/computers/" + old.get(0).id(),
                "files-saved", "They were saved today", old.stream().map(c -> c.id().toString()).collect(Collectors.joining(","))));
        }
    }

    private void copy(List<Todo> out) {
        Optional<Instant> newest = copies.newest();
        if (newest.isEmpty() || newest.get().plus(COPY_STANDS).isBefore(clock.instant())) {
            out.add(new Todo("copy", "Granary's own database has no copy of late", newest.map(at -> "The newest is " + Duration.between(at, clock.instant()).toDays() + " days old.").orElse("There is none yet.")
                + " It is copied every night; a copy can be made now.", "/settings", "copy-database", "Copy it now", ""));
        }
    }
}
