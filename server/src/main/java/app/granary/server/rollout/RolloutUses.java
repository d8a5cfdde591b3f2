package app.granary.server.rollout;

import app.granary.server.image.Uses;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** A rollout that is not ended needs its image. */
@Component
class RolloutUses implements Uses {
    private final RolloutRepository rollouts;

    RolloutUses(RolloutRepository rollouts) {
        this.rollouts = rollouts;
    }

    @Override
    public Map<UUID, Set<String>> now() {
        return rollouts.findByEndedAtIsNull().stream().collect(Collectors.groupingBy(Rollout::imageId,
            Collectors.mapping(each -> "the rollout \"" + each.name() + "\" is not ended", Collectors.toSet())));
    }
}
