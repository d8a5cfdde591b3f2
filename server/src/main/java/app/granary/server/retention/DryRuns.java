package app.granary.server.retention;

import app.granary.core.plan.Keep;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import app.granary.core.retention.Retention;
import app.granary.core.retention.RetentionDecision;
import app.granary.core.retention.RetentionPolicy;
import app.granary.core.retention.ShelvedImage;
import app.granary.server.image.Images;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import java.time.Clock;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** Decides for every image there is, by the plans of its disk. A disk with several plans keeps what any of them keeps; one without a plan keeps all. */
@Service
class DryRuns {
    private final Images images;
    private final Plans plans;
    private final OfficeDays office;
    private final Clock clock;

    DryRuns(Images images, Plans plans, OfficeDays office, Clock clock) {
        this.images = images;
        this.plans = plans;
        this.office = office;
        this.clock = clock;
    }

    /** @param policies the rules of its plans, as sentences */
    record DiskRun(String computer, String disk, String diskId, List<String> policies, List<Decided> images) {
    }

    record Decided(Images.Standings image, RetentionDecision decision) {
    }

    /** By computer and disk, each disk's images newest first; those known from paper only are none. */
    List<DiskRun> all() {
        Map<String, List<Images.Standings>> byDisk = images.standings().stream().filter(image -> !image.paper()).collect(Collectors.groupingBy(Images.Standings::diskId, LinkedHashMap::new, Collectors.toList()));
        Map<String, List<RetentionPolicy>> policies = plans.all().stream().collect(Collectors.groupingBy(saved -> saved.plan().source().diskId(), Collectors.mapping(saved -> policy(saved.plan().keep()),
            Collectors.toList())));
        return byDisk.entrySet().stream().map(disk -> run(disk.getValue(), policies.getOrDefault(disk.getKey(), List.of(RetentionPolicy.ALL))))
            .sorted(Comparator.comparing(DiskRun::computer).thenComparing(DiskRun::disk)).toList();
    }

    private static RetentionPolicy policy(Keep keep) {
        return new RetentionPolicy(keep, 0, 0, 1);
    }

    private DiskRun run(List<Images.Standings> ofDisk, List<RetentionPolicy> policies) {
        List<ShelvedImage> shelf = ofDisk.stream().map(image -> new ShelvedImage(image.id().toString(), image.setId().toString(), image.madeAt(), state(image.standing()), List.of(), List.of())).toList();
        Map<String, RetentionDecision> decisions = new TreeMap<>();
        for (RetentionPolicy policy : policies) {
            Retention.decide(shelf, policy, clock.instant(), office.days().calendar().zone()).forEach(each -> decisions.merge(each.id(), each, (before, now) -> before.kept() ? before : now));
        }
        Images.Standings any = ofDisk.get(0);
        return new DiskRun(any.computer(), any.disk(), any.diskId(), policies.stream().map(RetentionPolicy::words).distinct().toList(),
            ofDisk.stream().map(image -> new Decided(image, decisions.get(image.id().toString()))).toList());
    }

    private static ShelvedImage.State state(Standing standing) {
        if (standing.damaged()) {
            return ShelvedImage.State.DAMAGED;
        }
        return standing.level().filter(level -> level.includes(ProofLevel.SOUND)).isPresent() ? ShelvedImage.State.PROVEN : ShelvedImage.State.UNPROVEN;
    }
}
