package app.granary.server.image;

import app.granary.core.inventory.ComputerRenamed;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Images go by the name their computer has now; the name in the image's own files stays as it was written. */
@Component
class ImageNames {
    private final ImageRepository images;
    private final ApplicationEventPublisher events;

    ImageNames(ImageRepository images, ApplicationEventPublisher events) {
        this.images = images;
        this.events = events;
    }

    @EventListener
    void follow(ComputerRenamed renamed) {
        for (Image image : images.findByDiskIdIn(renamed.diskIds())) {
            image.ofComputer(renamed.after());
            images.save(image);
            events.publishEvent(new ImageShelf.Changed(image.id()));
        }
    }
}
