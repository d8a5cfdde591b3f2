package app.granary.demo;

import app.granary.core.destination.PlaceKind;
import app.granary.core.plan.DueDates;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.server.account.Accounts;
import app.granary.server.computer.ComputersOnRecord;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.estimate.StorageChoice;
import app.granary.server.image.Images;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import app.granary.server.rescue.RescueMedia;
import app.granary.server.run.NightMail;
import app.granary.server.run.NightsMailed;
import app.granary.server.capture.PastCaptures;
import app.granary.standins.Past;
import app.granary.standins.PastWork;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Lays the past of the made-up office, once, before its address is told: night by night, under a moved clock, relative to the day it
 * starts.
 */
@Component
class DemoHistory {
    private static final Logger LOG = LoggerFactory.getLogger(DemoHistory.class);
    private static final String WHO = Accounts.DEMO_NAME;
    private static final long SEED = 1911;
    /** So many of the last nights have their mail in the outbox. */
    private static final int TOLD = 3;
    private static final LocalTime MORNING = LocalTime.of(7, 15);

    private final GranarySettings settings;
    private final Past past;
    private final Plans plans;
    private final Prospects prospects;
    private final PastCaptures captures;
    private final PastCopies copies;
    private final NightsMailed mailed;
    private final NightMail nightMail;
    private final Images images;
    private final Destinations destinations;
    private final ComputersOnRecord computers;
    private final DisksOnRecord disks;
    private final OfficeDays office;
    private final RescueMedia media;
    private final Journal journal;
    private final Clock clock;

    private final SplittableRandom random = new SplittableRandom(SEED);
    private final Map<String, Prospect> thought = new HashMap<>();
    private final Map<String, UUID> made = new HashMap<>();
    private final Map<String, UUID> sticks = new HashMap<>();
    private final Set<LocalDate> told = new HashSet<>();

    DemoHistory(GranarySettings settings, Past past, Plans plans, Prospects prospects, PastCaptures captures, PastCopies copies,
        NightsMailed mailed, NightMail nightMail, Images images, Destinations destinations, ComputersOnRecord computers,
        DisksOnRecord disks, OfficeDays office, RescueMedia media, Journal journal, Clock clock) {
        this.settings = settings;
        this.past = past;
        this.plans = plans;
        this.prospects = prospects;
        this.captures = captures;
        this.copies = copies;
        this.mailed = mailed;
        this.nightMail = nightMail;
        this.images = images;
        this.destinations = destinations;
        this.computers = computers;
        this.disks = disks;
        this.office = office;
        this.media = media;
        this.journal = journal;
        this.clock = clock;
    }

    /** One thing that happened. */
    private record Event(Instant at, Step step) {
    }

    private interface Step {
        void happen() throws IOException;
    }

    @EventListener(ApplicationReadyEvent.class)
    @Order(-10)
    void lay() throws IOException {
        if (!settings.history() || past.work().isEmpty() || journal.newest().isPresent()) {
            return;
        }
        long began = System.nanoTime();
        PastWork work = past.work().get();
        disks.readAttached();
        Instant now = clock.instant();
        List<Event> events = new ArrayList<>();
        PastScript.DEEDS
            .forEach(deed -> events.add(new Event(now.minus(Duration.ofDays(deed.daysAgo())).minus(Duration.ofMinutes(random.nextInt(200))),
                () -> happen(deed, work))));
        Map<String, Plans.Saved> byDisk = plans.all().stream()
            .collect(Collectors.toMap(saved -> saved.plan().source().diskId(), saved -> saved, (a, b) -> a));
        OfficeCalendar calendar = office.days().calendar();
        Map<PastScript.Taken, LocalDate> nights = PastScript.TAKEN.stream()
            .collect(Collectors.toMap(taken -> taken, taken -> night(byDisk.get(taken.diskId()), taken.night(), calendar, now)));
        new TreeSet<>(nights.values()).descendingSet().stream().limit(TOLD).forEach(told::add);
        told.forEach(night -> events.add(new Event(calendar.moment(night, MORNING), () -> nightMail.send(night))));
        for (PastScript.Taken taken : PastScript.TAKEN) {
            Plans.Saved saved = byDisk.get(taken.diskId());
            LocalDate night = nights.get(taken);
            Instant at = calendar.moment(night, saved.plan().window().from()).plus(Duration.ofMinutes(random.nextInt(180)));
            events.add(new Event(at, () -> take(taken, saved, night, work)));
            if (!taken.copyTo().isEmpty()) {
                Instant copied = at.plus(Duration.ofHours(5));
                events.add(new Event(copied, () -> copy(taken, work)));
            }
        }
        try {
            for (Event event : events.stream().filter(each -> each.at.isBefore(now)).sorted(Comparator.comparing(Event::at)).toList()) {
                work.moveTo(event.at);
                event.step.happen();
            }
        } finally {
            work.endPast();
        }
        LOG.info("the office's past was laid in {} ms", (System.nanoTime() - began) / 1_000_000);
    }

    /** The night so many before the last one its plan wanted. */
    private static LocalDate night(Plans.Saved saved, int back, OfficeCalendar calendar, Instant now) {
        LocalDate tonight = calendar.nightOf(now);
        LocalDate from = tonight.minusDays(PastScript.DAYS);
        List<LocalDate> due = new DueDates(saved.plan(), from, calendar).from(from, PastScript.DAYS).stream()
            .filter(night -> night.isBefore(tonight)).toList();
        return due.get(Math.max(0, due.size() - 1 - back));
    }

    /** Of older nights nobody wants to read a mail. */
    private void notTold(LocalDate night) {
        if (!told.contains(night)) {
            mailed.note(night, clock.instant());
        }
    }

    private Prospect prospect(String diskId) throws IOException {
        Prospect known = thought.get(diskId);
        if (known == null) {
            known = prospects.of(diskId, StorageChoice.of("zstd", 3, null, false, false, List.of()), false);
            thought.put(diskId, known);
        }
        return known;
    }

    private String name(Plans.Saved saved) {
        return saved.plan().naming().name(saved.plan().source().computer(), saved.plan().source().disk(), clock.instant());
    }

    private void go(PastWork work, Duration on) {
        work.moveTo(clock.instant().plus(on));
    }

    private void take(PastScript.Taken taken, Plans.Saved saved, LocalDate night, PastWork work) throws IOException {
        String name = name(saved);
        PastCaptures.What what = new PastCaptures.What(prospect(taken.diskId()), night, saved.id(), taken.destinationId(), name, WHO);
        UUID copy = captures.captured(what, 0.9 + random.nextDouble() * 0.35, length -> go(work, length),
            () -> work.image(taken.diskId(), taken.destinationId(), name));
        notTold(night);
        made.put(taken.diskId() + taken.night(), copy);
    }

    private void copy(PastScript.Taken taken, PastWork work) throws IOException {
        UUID image = made.get(taken.diskId() + taken.night());
        Images.Shelved shelved = images.shelved(image);
        work.copy(shelved.name(), taken.destinationId(), taken.copyTo());
        copies.copied(image, taken.copyTo(), new CheckOutcome(ProofLevel.SOUND, List.of(), shelved.storedBytes()), WHO);
    }

    private void happen(PastScript.Deed deed, PastWork work) throws IOException {
        switch (deed.kind()) {
            case "note" -> journal.add(WHO, "note", "", Journal.Result.NOTE, deed.text());
            case "place" -> place(deed.subject(), deed.text().split(";"));
            case "files" -> files(deed);
            case "medium" -> medium(deed.subject(), deed.text().split(";"));
            case "tried" -> {
                for (String computer : deed.text().split(",")) {
                    media.tried(sticks.get(deed.subject()), computer, true, "", WHO);
                }
            }
            case "retired" -> media.retire(sticks.get(deed.subject()), deed.text(), WHO);
            case "full" -> full(deed, work);
            default -> spoilt(deed, work);
        }
    }

    private void place(String id, String[] where) throws IOException {
        PlaceKind kind = PlaceKind.parse(where[0]).orElseThrow();
        destinations.place(id, kind, where[1], WHO);
        journal.add(WHO, "move destination", images.destinationName(id), Journal.Result.DONE,
            images.destinationName(id) + " lies " + kind.words(where[1]) + " now.",
            Journal.Facts.of(List.of(id), Map.of(), "/destinations"));
    }

    private void medium(String name, String[] facts) throws IOException {
        Instant since = clock.instant().minus(Duration.ofDays(facts.length > 3 ? Integer.parseInt(facts[3]) : 0));
        sticks.put(name, media.register(
            new RescueMedia.Entry(name, "stick", facts[0], facts[1], List.of("BIOS", "UEFI"), facts[2], false, since), WHO));
    }

    private void files(PastScript.Deed deed) {
        LocalDate today = office.days().calendar().nightOf(clock.instant());
        for (ComputersOnRecord.ComputerOnRecord computer : computers.all()) {
            computers.filesSaved(computer.id(), today.minusDays(PastScript.FILES_OLD.getOrDefault(computer.name(), 0)), deed.text());
        }
        journal.add(WHO, "files saved", "all computers", Journal.Result.NOTE,
            "Files are backed up " + deed.text() + ". PLUMB was forgotten.");
    }

    private void full(PastScript.Deed deed, PastWork work) throws IOException {
        Plans.Saved saved = plans.all().stream().filter(each -> each.plan().source().diskId().equals(deed.subject())).findFirst()
            .orElseThrow();
        String drive = images.destinationName(deed.text());
        LocalDate night = office.days().calendar().nightOf(clock.instant());
        PastCaptures.What what = new PastCaptures.What(prospect(deed.subject()), night, saved.id(), deed.text(), name(saved), WHO);
        captures.failed(what, drive + " became full while " + saved.plan().source().label()
            + " was written to it: No space left on device. What was written was discarded; nothing of the disk was touched. Make room on "
            + drive + ", or choose another drive.", deed.daysAgo() > 7,
            length -> go(work, length));
        notTold(night);
    }

    /** The byte is turned first; that it is found is a real check's doing. */
    private void spoilt(PastScript.Deed deed, PastWork work) throws IOException {
        UUID original = made.get(deed.subject() + 3);
        if (original == null) {
            return;
        }
        Images.Shelved image = images.shelved(original);
        UUID copy = images.idOn(original, deed.text());
        work.spoil(deed.text(), image.name());
        CheckOutcome outcome = work.check(deed.text(), image.name());
        copies.checked(copy, outcome, ProofLevel.SOUND, WHO);
    }
}
