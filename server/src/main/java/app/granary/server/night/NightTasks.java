package app.granary.server.night;

import app.granary.core.destination.Destination;
import app.granary.core.destination.DestinationAssessment;
import app.granary.core.destination.DestinationRules;
import app.granary.core.destination.ImageNeed;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.estimate.Assumption;
import app.granary.core.estimate.TimeEstimate;
import app.granary.core.fault.FaultException;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.night.NightTask;
import app.granary.core.night.Span;
import app.granary.core.night.Way;
import app.granary.core.machine.Machine;
import app.granary.core.plan.Plan;
import app.granary.core.plan.Storing;
import app.granary.engine.host.Links;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.server.agent.ComputersByAgent;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.estimate.LearntEstimates;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.estimate.StorageChoice;
import app.granary.server.image.Images;
import app.granary.server.plan.Plans;
import app.granary.server.working.Working;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Turns a due plan into a task of the night: how long it would take on each drive it may go to, and why not on the others. */
@Component
class NightTasks {
    /** A disk changes little between the afternoon and the night; sampling eleven disks anew for every look at the page would. */
    private static final Duration SAMPLE_STANDS = Duration.ofHours(12);

    private final Prospects prospects;
    private final LearntEstimates learnt;
    private final DisksOnRecord disks;
    private final Images images;
    private final ComputersByAgent byAgent;

    NightTasks(Prospects prospects, LearntEstimates learnt, DisksOnRecord disks, Images images, ComputersByAgent byAgent) {
        this.byAgent = byAgent;
        this.prospects = prospects;
        this.learnt = learnt;
        this.disks = disks;
        this.images = images;
    }

    /**
     * A task with what it was reckoned from.
     *
     * @param times   by drive
     * @param basis   what its size rests on; empty when it could not be told
     * @param bootKey key of its computer's boot menu, or an empty string
     * @param booted  when its computer was, where it is here by its agent already
     */
    record Reckoned(NightTask task, Plans.Saved plan, Map<String, Time> times, String basis, String bootKey, Optional<Instant> booted) {
    }

    /** @param readBackShare the part of the time that goes to reading back, 0 to 1 */
    record Time(TimeEstimate estimate, double readBackShare, List<Working.Line> lines) {
    }

    Reckoned of(Plans.Saved saved, Duration overdue, List<Span> windows, NightTask.Pin pin) {
        Plan plan = saved.plan();
        Optional<DisksOnRecord.DiskOnRecord> disk = disks.find(plan.source().diskId());
        if (disk.isEmpty()) {
            String unfit = "The disk of " + plan.source().label() + " is not in this office any more. Change the plan, or pause it.";
            return new Reckoned(task(saved, overdue, windows, List.of(), List.of(), List.of(), unfit, pin, false), saved, Map.of(), "", "",
                Optional.empty());
        }
        Prospect prospect;
        try {
            prospect = prospect(disk.get(), plan.storing(), plan);
        } catch (IOException unreadable) {
            // one disk that cannot be read is no reason to plan nothing
            String why = unreadable instanceof FaultException fault ? fault.fault().sentence()
                : "its disk did not answer. Check that it is attached.";
            return new Reckoned(
                task(saved, overdue, windows, List.of(), List.of(), List.of(), plan.source().label() + " cannot be weighed: " + why, pin,
                false),
                saved, Map.of(), "", "", Optional.empty());
        }
        List<String> wanted = plan.drivesInOrder(images.newestByDestination(plan.source().diskId()));
        Ways ways = ways(prospect, plan, wanted, pin);
        Map<String, Time> times = prospect.assessments().stream()
            .collect(Collectors.toMap(a -> a.destination().id(), a -> time(prospect, a.destination())));
        Optional<Instant> booted = byAgent.since(disk.get().computerId());
        NightTask task = task(saved, overdue, windows, ways.wanted, ways.others, ways.away,
            ways.wanted.isEmpty() ? noWay(plan, wanted, prospect) : "", pin, booted.isPresent());
        return new Reckoned(task, saved, times, prospect.size().basis().word(), disk.get().bootKey(), booted);
    }

    /**
     * Where an image could go.
     *
     * @param wanted what the plan names, in its order
     * @param others that would take it too
     * @param away   what the plan names, were it attached
     */
    private record Ways(List<Way> wanted, List<Way> others, List<Way> away) {
    }

    private Ways ways(Prospect prospect, Plan plan, List<String> wanted, NightTask.Pin pin) {
        List<Way> ways = new ArrayList<>();
        List<Way> others = new ArrayList<>();
        List<Way> away = new ArrayList<>();
        for (DestinationAssessment each : prospect.assessments()) {
            boolean named = wanted.contains(each.destination().id());
            boolean pinned = pin.driveId().equals(Optional.of(each.destination().id()));
            if (each.fit()) {
                (named || pinned ? ways : others).add(way(prospect, each.destination()));
            } else if (named && !each.destination().attached() && fitIfAttached(prospect, each)) {
                away.add(way(prospect, each.destination()));
            }
        }
        ways.sort(Comparator.comparingInt(way -> order(wanted, way.driveId())));
        if (plan.inTurn() && pin.driveId().isEmpty() && ways.size() > 1) {
            others.addAll(0, ways.subList(1, ways.size()));
            ways = ways.subList(0, 1);
        }
        return new Ways(ways, others, away);
    }

    private static int order(List<String> wanted, String id) {
        int at = wanted.indexOf(id);
        return at < 0 ? wanted.size() : at;
    }

    private static NightTask task(Plans.Saved saved, Duration overdue, List<Span> windows, List<Way> ways, List<Way> others, List<Way> away,
        String unfit, NightTask.Pin pin, boolean here) {
        return new NightTask(saved.id().toString(), saved.plan().source().label(), saved.plan().source().computer(), overdue, windows,
            saved.plan().booted() && !here, ways, others, away, unfit, pin);
    }

    private Prospect prospect(DisksOnRecord.DiskOnRecord disk, Storing storing, Plan plan) throws IOException {
        Storage storage = StorageChoice.of(plan);
        if (disk.attached()) {
            return prospects.forNight(disk.id(), storage, storing.encrypted(), SAMPLE_STANDS);
        }
        // before its computer is booted from rescue media tonight, a disk cannot be looked at: what is known of it has to do
        HostDisk known = HostDisk.lasting(disk.id(), disk.name(), disk.identity(), disk.bus(), Links.rate(disk.bus()));
        long used = storing.allBlocks() ? disk.identity().sizeBytes() : disk.toReadBytes();
        HostEstimate estimate = new HostEstimate(learnt.size(disk.id(), used, disk.identity().sizeBytes(), storing.codec()),
            Assumption.of(storing.codec()).compressRateBytes());
        HostComputer computer = new HostComputer(disk.computerId().toString(), disk.computer(), disk.role(), disk.owner(),
            ComputerFacts.UNKNOWN, List.of(known))
            .by(plan.booted() ? byAgent.whenBooted(disk.computerId(), disk.computer()) : Machine.OFFICE);
        return prospects.forNight(new Prospect.Source(computer, known), storage, storing.encrypted(), estimate);
    }

    private Way way(Prospect prospect, Destination to) {
        TimeEstimate time = prospect.clockTimeTo(to);
        return new Way(to.id(), time.lowSeconds(), time.likelySeconds(), time.highSeconds(), prospect.size().highBytes());
    }

    private Time time(Prospect prospect, Destination to) {
        TimeEstimate time = prospect.clockTimeTo(to);
        double back = time.stages().stream().filter(stage -> stage.name().equals("read back")).mapToDouble(TimeEstimate.Stage::seconds)
            .sum();
        double slowest = time.stages().stream().filter(stage -> stage.name().equals(time.slowest()))
            .mapToDouble(TimeEstimate.Stage::seconds).sum();
        return new Time(time, back / Math.max(1e-9, back + slowest), NightWorkings.stages(time, prospect.correction(to)));
    }

    private static boolean fitIfAttached(Prospect prospect, DestinationAssessment a) {
        ImageNeed need = new ImageNeed(prospect.source().label(), java.util.Set.of(), prospect.size().lowBytes(),
            prospect.size().likelyBytes(), prospect.size().highBytes(), prospect.storage().splitBytes());
        return DestinationRules.assess(need, a.destination().asIfAttached()).fit()
            && a.rules().stream().allMatch(rule -> rule.holds() || rule.rule().equals("attached"));
    }

    private static String noWay(Plan plan, List<String> wanted, Prospect prospect) {
        return prospect.assessments().stream().filter(a -> wanted.contains(a.destination().id())).flatMap(a -> a.rules().stream())
            .filter(rule -> !rule.holds()).map(RuleOutcome::sentence)
            .collect(Collectors.collectingAndThen(Collectors.joining(" "),
                why -> why.isEmpty() ? plan.source().label() + " has no drive to go to. Choose one in its plan." : why));
    }
}
