package app.granary.server.restore;

import app.granary.core.inventory.ComputerRenamed;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Spares, restored disks and rollouts go by the name their computer has now. */
@Component
class RestoreNames {
    private final RestorationRepository repository;

    RestoreNames(RestorationRepository repository) {
        this.repository = repository;
    }

    @EventListener
    void follow(ComputerRenamed renamed) {
        repository.findAll().stream()
            .filter(each -> renamed.diskIds().contains(each.diskId()) || each.forComputer().equalsIgnoreCase(renamed.before()))
            .forEach(each -> {
                each.renamed(renamed.diskIds().contains(each.diskId()) ? renamed.after() : each.computer(),
                    each.forComputer().equalsIgnoreCase(renamed.before()) ? renamed.after() : each.forComputer());
                repository.save(each);
            });
    }
}
