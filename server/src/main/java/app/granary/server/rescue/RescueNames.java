package app.granary.server.rescue;

import app.granary.core.inventory.ComputerRenamed;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** What was tried on a computer stays known under the name it has now. */
@Component
class RescueNames {
    private final BootTrialRepository repository;

    RescueNames(BootTrialRepository repository) {
        this.repository = repository;
    }

    @EventListener
    void follow(ComputerRenamed renamed) {
        repository.findAll().stream().filter(each -> each.test().computer().equalsIgnoreCase(renamed.before())).forEach(each -> {
            each.renamed(renamed.after());
            repository.save(each);
        });
    }
}
