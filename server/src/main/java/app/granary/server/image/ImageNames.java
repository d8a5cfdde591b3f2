package app.granary.server.image;

import app.granary.core.inventory.ComputerRenamed;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Images go by the name their computer has now; the name in the image's own files stays as it was written. */
@Component
class ImageNames {
    private final CopyRepository copies;
    private final ApplicationEventPublisher events;

    ImageNames(CopyRepository copies, ApplicationEventPublisher events) {
        this.copies = copies;
        this.events = events;
    }

    @EventListener
    void follow(ComputerRenamed renamed) {
        for (Copy copy : copies.ofDisks(renamed.diskIds())) {
            copy.image().ofComputer(renamed.after());
            copies.save(copy);
            events.publishEvent(new ImageShelf.Changed(copy.id()));
        }
    }
}
