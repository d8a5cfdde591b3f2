package app.granary.server.retention;

import app.granary.core.proof.Standing;
import app.granary.core.retention.Keeping;
import app.granary.core.retention.Retention;
import app.granary.core.retention.RetentionDecision;
import app.granary.core.retention.RetentionPolicy;
import app.granary.core.retention.ShelvedCopy;
import app.granary.server.image.Images;
import app.granary.server.image.Uses;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/**
 * Decides for every image there is, by the plans of its disk. A disk with several plans keeps what any of them keeps; one without a plan
 * keeps by the office's choice, and never releases by itself.
 */
@Service
public class DryRuns {
    private final Images images;
    private final ImageHoldRepository holds;
    private final List<Uses> uses;
    private final Plans plans;
    private final OfficeChoices choices;
    private final OfficeDays office;
    private final Clock clock;

    DryRuns(Images images, ImageHoldRepository holds, List<Uses> uses, Plans plans, OfficeChoices choices, OfficeDays office, Clock clock) {
        this.images = images;
        this.holds = holds;
        this.uses = uses;
        this.plans = plans;
        this.choices = choices;
        this.office = office;
        this.clock = clock;
    }

    /** What any part of the program does with images just now. */
    private Map<UUID, Set<String>> used() {
        return uses.stream().flatMap(each -> each.now().entrySet().stream()).collect(Collectors.toMap(Map.Entry::getKey,
            Map.Entry::getValue, (a, b) -> Stream.concat(a.stream(), b.stream()).collect(Collectors.toSet())));
    }

    /**
     * @param policies  the rules of its plans
     * @param automatic whether what goes is released without being asked
     * @param images    newest first
     */
    record DiskRun(String computer, String disk, String diskId, List<RetentionPolicy> policies, boolean automatic, List<Decided> images) {
    }

    /** A copy, as people know it and as the rules see it. */
    record CopyOf(Images.Standings copy, ShelvedCopy shelved) {
    }

    /**
     * An image, decided of as a whole: its copies are one moment, and stay or go together.
     *
     * @param copies never empty
     */
    record Decided(List<CopyOf> copies, RetentionDecision decision) {
        Images.Standings any() {
            return copies.get(0).copy();
        }

        UUID imageId() {
            return any().imageId();
        }

        boolean holds(UUID copyId) {
            return copies.stream().anyMatch(each -> each.copy().id().equals(copyId));
        }

        boolean is(ShelvedCopy.State state) {
            return copies.stream().anyMatch(each -> each.shelved().state() == state);
        }

        long bytes() {
            return copies.stream().mapToLong(each -> each.copy().storedBytes()).sum();
        }
    }

    /** By computer and disk, each disk's images newest first; those known from paper only are none. */
    List<DiskRun> all() {
        return of(images.standingsByDisk());
    }

    /** Of one disk; empty when there is no image of it. */
    List<DiskRun> of(String diskId) {
        return of(Set.of(diskId));
    }

    /** Of some disks: plans, holds and what is in use are asked for once. */
    List<DiskRun> of(Set<String> diskIds) {
        Map<String, List<Images.Standings>> all = images.standingsByDisk();
        return of(diskIds.stream().filter(all::containsKey).collect(Collectors.toMap(Function.identity(), all::get)));
    }

    private List<DiskRun> of(Map<String, List<Images.Standings>> standings) {
        Map<String, List<Images.Standings>> byDisk = new LinkedHashMap<>();
        standings.forEach((disk, list) -> {
            List<Images.Standings> seen = list.stream().filter(image -> !image.paper()).toList();
            if (!seen.isEmpty()) {
                byDisk.put(disk, seen);
            }
        });
        Map<String, List<Keeping>> keepings = keepings();
        Keeping byOffice = choices.keeping();
        Map<UUID, List<ImageHold>> held = holds.findByEndedAtIsNullOrderByPlacedAt().stream()
            .collect(Collectors.groupingBy(ImageHold::imageId));
        Map<UUID, Set<String>> used = used();
        ZoneId zone = office.days().calendar().zone();
        Instant now = clock.instant();
        return byDisk.entrySet().stream().map(disk -> {
            List<ShelvedCopy> shelf = disk.getValue().stream()
                .map(image -> new ShelvedCopy(image.id().toString(), image.imageId().toString(), image.madeAt(), state(image.standing()),
                    image.lacks().words(),
                    held.getOrDefault(image.imageId(), List.of()).stream().map(hold -> hold.hold(zone)).toList(),
                    List.copyOf(used.getOrDefault(image.id(), Set.of()))))
                .toList();
            return run(disk.getValue(), shelf, keepings.getOrDefault(disk.getKey(), List.of(byOffice)), keepings.containsKey(disk.getKey()),
                now, zone);
        }).sorted(Comparator.comparing(DiskRun::computer).thenComparing(DiskRun::disk)).toList();
    }

    /** What the plans of each disk keep. */
    Map<String, List<Keeping>> keepings() {
        Keeping byOffice = choices.keeping();
        return plans.all().stream()
            .collect(Collectors.groupingBy(saved -> saved.plan().source().diskId(),
                Collectors.mapping(saved -> saved.plan().keep().asOffice() ? byOffice : saved.plan().keep(),
                    Collectors.toList())));
    }

    private static DiskRun run(List<Images.Standings> ofDisk, List<ShelvedCopy> shelf, List<Keeping> keepings, boolean planned, Instant now,
        ZoneId zone) {
        List<RetentionPolicy> policies = keepings.stream().map(Keeping::policy).distinct().toList();
        Map<String, RetentionDecision> decisions = new HashMap<>();
        for (RetentionPolicy policy : policies) {
            Retention.decide(shelf, policy, now, zone)
                .forEach(each -> decisions.merge(each.id(), each, (before, later) -> before.kept() ? before : later));
        }
        Images.Standings any = ofDisk.get(0);
        return new DiskRun(any.computer(), any.disk(), any.diskId(), policies, planned && keepings.stream().allMatch(Keeping::automatic),
            IntStream.range(0, shelf.size()).mapToObj(i -> new CopyOf(ofDisk.get(i), shelf.get(i)))
                .collect(Collectors.groupingBy(each -> each.copy().imageId(), LinkedHashMap::new, Collectors.toList())).values().stream()
                .map(copies -> new Decided(copies, decisions.get(copies.get(0).shelved().id()))).toList());
    }

    private static ShelvedCopy.State state(Standing standing) {
        if (standing.damaged()) {
            return ShelvedCopy.State.DAMAGED;
        }
        return standing.sound() ? ShelvedCopy.State.PROVEN : ShelvedCopy.State.UNPROVEN;
    }
}
