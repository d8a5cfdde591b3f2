package app.granary.server.image;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface ImageCheckRepository extends JpaRepository<ImageCheck, UUID> {
    List<ImageCheck> findByImageIdOrderByCheckedAtDesc(UUID imageId);

    List<ImageCheck> findAllByOrderByCheckedAtDesc();
}
