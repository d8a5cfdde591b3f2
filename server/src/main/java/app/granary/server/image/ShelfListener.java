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
        publisher.publishEvent(new ImageShelf.Changed(entity instanceof ImageCheck check ? check.imageId() : ((Image) entity).id()));
    }
}
