package app.granary.server.image;

import jakarta.persistence.PostPersist;
import jakarta.persistence.PostUpdate;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** Tells the shelf what was written. */
@Component
class ShelfListener {
    private final ApplicationEventPublisher publisher;

    ShelfListener(ApplicationEventPublisher publisher) {
        this.publisher = publisher;
    }

    @PostPersist
    @PostUpdate
    void written(Object entity) {
        if (entity instanceof Image image) {
            publisher.publishEvent(new ImageShelf.ImageChanged(image.id()));
        } else {
            publisher.publishEvent(new ImageShelf.Changed(entity instanceof ImageCheck check ? check.copyId() : ((Copy) entity).id()));
        }
    }
}
