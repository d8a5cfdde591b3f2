package app.granary.server.rollout;

import app.granary.core.inventory.ComputerRenamed;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** The computers of a rollout go by the names they have now. */
@Component
class RolloutNames {
    private final RolloutRepository repository;

    RolloutNames(RolloutRepository repository) {
        this.repository = repository;
    }

    @EventListener
    void follow(ComputerRenamed renamed) {
        repository.findAll().forEach(each -> {
            each.renamed(renamed.before(), renamed.after());
            repository.save(each);
        });
    }
}
