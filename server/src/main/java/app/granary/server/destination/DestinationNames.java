package app.granary.server.destination;

import app.granary.core.inventory.ComputerRenamed;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** A drive that is kept for a computer stays kept for it. */
@Component
class DestinationNames {
    private final DestinationRepository repository;

    DestinationNames(DestinationRepository repository) {
        this.repository = repository;
    }

    @EventListener
    void follow(ComputerRenamed renamed) {
        repository.findAll().stream().filter(each -> each.renamed(renamed.before(), renamed.after())).forEach(repository::save);
    }
}
