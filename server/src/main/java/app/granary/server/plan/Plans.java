package app.granary.server.plan;

import app.granary.core.inventory.ComputerRenamed;
import app.granary.core.plan.DueDates;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanDestination;
import app.granary.core.plan.PlanLines;
import app.granary.core.plan.PlanReview;
import app.granary.core.plan.PlanSource;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.destination.Destinations;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeDays;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import app.granary.core.measure.Moments;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The plans of the office, and everything that changes them. */
@Service
public class Plans {
    private static final String BEFORE = "before Granary";

    private final PlanRepository plans;
    private final PlanVersionRepository versions;
    private final PlanFile file;
    private final DisksOnRecord disks;
    private final Destinations destinations;
    private final Images images;
    private final OfficeDays office;
    private final Clock clock;
    /** Plans as they were last read; a document is only read again when its version moved on. */
    private final Map<UUID, Saved> read = new ConcurrentHashMap<>();

    Plans(PlanRepository plans, PlanVersionRepository versions, PlanFile file, DisksOnRecord disks, Destinations destinations,
        Images images, OfficeDays office, Clock clock) {
        this.plans = plans;
        this.versions = versions;
        this.file = file;
        this.disks = disks;
        this.destinations = destinations;
        this.images = images;
        this.office = office;
        this.clock = clock;
    }

    /**
     * A plan as it is kept.
     *
     * @param madeOn  the day its rhythm is counted from
     * @param version for If-Match
     */
    public record Saved(UUID id, Plan plan, LocalDate madeOn, boolean paused, long version) {
    }

    /**
     * Takes a plan over that was in use before.
     *
     * @param planFile its plan file
     * @param daysAgo  how long it has been in use, 0 or more
     */
    @Transactional
    public void takeOver(String planFile, int daysAgo) {
        keep(StoredPlan.made(today().minusDays(daysAgo)), file.read(planFile), BEFORE, List.of("Taken over as it was"));
    }

    private LocalDate today() {
        return office.days().calendar().nightOf(clock.instant());
    }

    @Transactional(readOnly = true)
    public List<Saved> all() {
        return plans.heads().stream().map(head -> {
            Saved known = read.get(head.id());
            return known != null && known.version == head.version() ? known : saved(stored(head.id()));
        }).toList();
    }

    @Transactional(readOnly = true)
    public Saved one(UUID id) {
        return saved(stored(id));
    }

    private Saved saved(StoredPlan stored) {
        Saved known = read.get(stored.id());
        if (known == null || known.version != stored.version()) {
            known = new Saved(stored.id(), file.kept(stored.document()).plan(), stored.madeOn(), stored.paused(), stored.version());
            read.put(stored.id(), known);
        }
        return known;
    }

    private StoredPlan stored(UUID id) {
        return plans.findById(id).filter(plan -> plan.removedAt() == null).orElseThrow(() -> Refused.notFound("plan"));
    }

    List<PlanVersion> versionsOf(UUID id) {
        return versions.findByPlanIdOrderByIdDesc(id);
    }

    Optional<Saved> named(String name) {
        return plans.findFirstByNameIgnoreCaseAndRemovedAtIsNull(name.strip()).map(this::saved);
    }

    /** The night its next image is due: in the past when it is overdue, empty when it is due only by hand. */
    public Optional<LocalDate> due(Saved saved) {
        return due(saved, office.days().calendar());
    }

    /** The same, for who asks of many. */
    public Optional<LocalDate> due(Saved saved, OfficeCalendar calendar) {
        Optional<LocalDate> newest = images.newestOf(saved.plan.source().diskId()).map(calendar::nightOf);
        // an image made before the plan was says nothing of its rhythm
        Optional<LocalDate> counted = newest.filter(night -> !night.isBefore(saved.madeOn.minusDays(saved.plan.rhythm().longestGapDays())));
        return new DueDates(saved.plan, saved.madeOn, calendar).next(counted);
    }

    /** Whether its rhythm says that night. */
    public boolean dueOn(Saved saved, LocalDate night) {
        return new DueDates(saved.plan, saved.madeOn, office.days().calendar()).from(night, 1).contains(night);
    }

    /** A plan as a person sends it, with what this office knows of its disk and drives. */
    Plan known(PlanForm form) throws IOException {
        Plan plan = form.plan();
        DisksOnRecord.DiskOnRecord disk = disks.find(form.source().diskId())
            .orElseThrow(() -> new Refused(HttpStatus.CONFLICT, "unknown-disk", "source",
                "There is no disk " + plan.source().label() + " in this office. Choose the disk the plan is for."));
        Map<String, String> names = destinations.now().stream().collect(Collectors.toMap(d -> d.id(), d -> d.name()));
        for (PlanDestination each : plan.destinations()) {
            if (!names.containsKey(each.id())) {
                throw new Refused(HttpStatus.CONFLICT, "unknown-destination", "destinations",
                    each.name() + " is not known here any more. Choose another drive; nothing else of the plan is lost.");
            }
        }
        return plan.with(PlanSource.of(disk.id(), disk.computer(), disk.name(), disk.identity(), plan.source().without()),
            plan.destinations().stream().map(each -> new PlanDestination(each.id(), names.get(each.id()))).toList());
    }

    private Plan required(PlanForm form, Optional<UUID> self) throws IOException {
        Plan plan = known(form);
        PlanReview.of(plan, clock.instant()).problems().stream().filter(problem -> problem.refused()).findFirst().ifPresent(problem -> {
            throw PlanForm.bad(problem.field(), problem.sentence());
        });
        Optional<StoredPlan> same = plans.findFirstByNameIgnoreCaseAndRemovedAtIsNull(plan.name())
            .filter(other -> !self.equals(Optional.of(other.id())));
        if (same.isPresent()) {
            throw new Refused(HttpStatus.CONFLICT, "name-taken", "name",
                "There is a plan \"" + same.get().name() + "\" already. Choose another name, or change that one.");
        }
        return plan;
    }

    @Transactional
    public Saved make(PlanForm form, String who) throws IOException {
        return keep(StoredPlan.made(today()), PlanForm.of(required(form, Optional.empty())), who, List.of("Made"));
    }

    /** @throws Refused when another person was quicker, with who changed what */
    @Transactional
    public Saved change(UUID id, long version, PlanForm form, String who) throws IOException {
        StoredPlan stored = stored(id);
        if (stored.version() != version) {
            PlanVersion last = versionsOf(id).get(0);
            throw IfMatch.changedBy(last.account() + " changed " + stored.name() + " at "
                + Moments.clock(last.at(), office.days().calendar().zone()) + ": " + String.join("; ", last.changes()) + ".");
        }
        Plan plan = required(form, Optional.of(id));
        List<String> changes = PlanLines.changes(file.kept(stored.document()).plan(), plan);
        return changes.isEmpty() ? saved(stored) : keep(stored, PlanForm.of(plan), who, changes);
    }

    private Saved keep(StoredPlan stored, PlanForm form, String who, List<String> changes) {
        String document = file.keep(form);
        stored.take(form, document);
        StoredPlan kept = plans.saveAndFlush(stored);
        versions.save(new PlanVersion(kept.id(), clock.instant(), who, changes, document));
        return saved(kept);
    }

    /** A plan names its computer as it is called now; what it was called when a version was made stays in that version. */
    @EventListener
    void follow(ComputerRenamed renamed) {
        plans.findAll().stream().filter(each -> renamed.diskIds().contains(each.diskId())).forEach(each -> {
            PlanForm form = file.kept(each.document()).ofComputer(renamed.after());
            each.take(form, file.keep(form));
            plans.save(each);
        });
    }

    @Transactional
    public Saved pause(UUID id, boolean paused, String who) {
        StoredPlan stored = stored(id);
        stored.pause(paused);
        StoredPlan kept = plans.saveAndFlush(stored);
        versions.save(new PlanVersion(id, clock.instant(), who, List.of(paused ? "Paused" : "Taken up again"), stored.document()));
        return saved(kept);
    }

    /** Its versions and its images stay. */
    @Transactional
    public Saved remove(UUID id, String who) {
        StoredPlan stored = stored(id);
        Saved last = saved(stored);
        stored.remove(clock.instant());
        plans.save(stored);
        versions.save(new PlanVersion(id, clock.instant(), who, List.of("Removed"), stored.document()));
        return last;
    }

    Map<String, DisksOnRecord.DiskOnRecord> disksById() {
        return disks.all().stream().collect(Collectors.toMap(DisksOnRecord.DiskOnRecord::id, Function.identity()));
    }
}
