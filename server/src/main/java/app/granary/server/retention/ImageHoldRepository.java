package app.granary.server.retention;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface ImageHoldRepository extends JpaRepository<ImageHold, UUID> {
    List<ImageHold> findByEndedAtIsNullOrderByPlacedAt();

    List<ImageHold> findByImageIdAndEndedAtIsNullOrderByPlacedAt(UUID imageId);
}
