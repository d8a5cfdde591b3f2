package app.granary.server.retention;

import app.granary.core.destination.Destination;
import app.granary.core.plan.DueDates;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanDestination;
import app.granary.core.retention.RetentionPolicy;
import app.granary.core.retention.ShelvedCopy;
import app.granary.core.retention.WhatIf;
import app.granary.server.destination.Destinations;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** How the destinations fill over the coming months, if every plan keeps its rhythm and images stay as long as the last. */
@Service
public class Outlooks {
    private static final int MOST_NIGHTS = 400;
    private static final Duration YEAR = Duration.ofDays(365);

    private final DryRuns dryRuns;
    private final Plans plans;
    private final Destinations destinations;
    private final OfficeDays office;
    private final Clock clock;

    Outlooks(DryRuns dryRuns, Plans plans, Destinations destinations, OfficeDays office, Clock clock) {
        this.dryRuns = dryRuns;
        this.plans = plans;
        this.destinations = destinations;
        this.office = office;
        this.clock = clock;
    }

    /** @param uncounted plans whose disk has no image yet, so that nobody knows how big they will be */
    public record Year(List<Destination> destinations, List<WhatIf.Outlook> outlooks, List<String> uncounted) {
    }

    /** @param trial a policy for every disk, instead of each one's own; empty for their own */
    public Year year(Optional<RetentionPolicy> trial) throws IOException {
        Instant now = clock.instant();
        Instant until = now.plus(YEAR);
        OfficeCalendar calendar = office.days().calendar();
        List<String> uncounted = new ArrayList<>();
        List<WhatIf.Disk> disks = new ArrayList<>();
        Map<String, List<Plans.Saved>> byDisk = new HashMap<>();
        plans.all().stream().filter(saved -> !saved.paused())
            .forEach(saved -> byDisk.computeIfAbsent(saved.plan().source().diskId(), key -> new ArrayList<>()).add(saved));
        for (DryRuns.DiskRun disk : dryRuns.all()) {
            List<WhatIf.Lying> there = disk.images().stream().flatMap(image -> image.copies().stream())
                .map(each -> new WhatIf.Lying(each.shelved(), each.copy().destinationId(), each.copy().storedBytes())).toList();
            List<WhatIf.Lying> coming = new ArrayList<>();
            for (Plans.Saved saved : byDisk.getOrDefault(disk.diskId(), List.of())) {
                coming.addAll(coming(saved, there.get(0).bytes(), there, calendar, now));
            }
            byDisk.remove(disk.diskId());
            disks.add(new WhatIf.Disk(disk.computer() + " " + disk.disk(), there, trial.map(List::of).orElse(disk.policies()), coming));
        }
        byDisk.values().forEach(left -> left.forEach(saved -> uncounted.add(saved.plan().name())));
        List<Destination> all = destinations.now();
        List<WhatIf.Room> rooms = all.stream().map(d -> new WhatIf.Room(d.id(), d.freeBytes(), d.reserveBytes())).toList();
        return new Year(all, WhatIf.of(disks, rooms, now, until, calendar.zone()), uncounted);
    }

    private static List<WhatIf.Lying> coming(Plans.Saved saved, long bytes, List<WhatIf.Lying> there, OfficeCalendar calendar,
        Instant now) {
        Plan plan = saved.plan();
        if (plan.destinations().isEmpty()) {
            return List.of();
        }
        Map<String, Instant> newest = new HashMap<>();
        there.forEach(each -> newest.merge(each.destinationId(), each.image().madeAt(), (a, b) -> a.isAfter(b) ? a : b));
        List<WhatIf.Lying> out = new ArrayList<>();
        for (LocalDate night : new DueDates(plan, saved.madeOn(), calendar).from(calendar.nightOf(now), MOST_NIGHTS)) {
            Instant at = calendar.moment(night, plan.window().from());
            String to = plan.inTurn()
                ? plan.destinations().stream().map(PlanDestination::id)
                    .min((a, b) -> newest.getOrDefault(a, Instant.EPOCH).compareTo(newest.getOrDefault(b, Instant.EPOCH))).orElseThrow()
                : plan.destinations().get(0).id();
            newest.put(to, at);
            String id = UUID.nameUUIDFromBytes((saved.id() + " " + night).getBytes(java.nio.charset.StandardCharsets.UTF_8)).toString();
            out.add(new WhatIf.Lying(new ShelvedCopy(id, id, at, ShelvedCopy.State.PROVEN, List.of(), List.of()), to, bytes));
        }
        return out;
    }
}
