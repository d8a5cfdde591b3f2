package app.granary.server.image;

import app.granary.server.computer.LastImages;
import app.granary.server.destination.Contents;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What lies on the shelf, for those who know nothing of images: how new the newest is, how much lies where. */
@Service
class ShelfContents implements LastImages, Contents {
    private final ImageShelf shelf;

    ShelfContents(ImageShelf shelf) {
        this.shelf = shelf;
    }

    @Override
    @Transactional(readOnly = true)
    public Map<String, LastImage> newest() {
        return shelf.now().all().stream().filter(each -> each.isKept() && each.image().origin() != Image.Origin.PAPER)
            .filter(each -> each.image().lacks().nothing()).collect(Collectors.toMap(each -> each.image().diskId(),
                each -> new LastImage(each.image().madeAt(), each.checkedAt().isPresent() && !each.standing().damaged()),
                (newest, older) -> newest));
    }

    @Override
    @Transactional(readOnly = true)
    public Map<String, Lying> lying() {
        return shelf.now().kept().stream().collect(Collectors.toMap(Images.Standings::destinationId, image -> new Lying(1,
            image.storedBytes()),
            (a, b) -> new Lying(a.count() + b.count(), a.bytes() + b.bytes())));
    }

    @Override
    public List<Content> on(String destinationId) {
        return shelf.now().kept().stream().filter(copy -> copy.destinationId().equals(destinationId) && !copy.paper())
            .map(copy -> new Content(copy.computer(), copy.disk(), copy.name(), copy.madeAt(), copy.storedBytes(),
                copy.standing().level().map(level -> level.ordinal() + 1).orElse(0), copy.encrypted()))
            .toList();
    }
}
