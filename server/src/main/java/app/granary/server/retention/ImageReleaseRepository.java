package app.granary.server.retention;

import java.util.Collection;
import java.util.List;
import java.util.UUID;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.JpaRepository;

interface ImageReleaseRepository extends JpaRepository<ImageRelease, UUID> {
    List<ImageRelease> findByStateInOrderByAskedAt(Collection<ImageRelease.State> states);

    List<ImageRelease> findByDestinationIdAndStateOrderByMovedAt(String destinationId, ImageRelease.State state);

    List<ImageRelease> findByOrderByAskedAtDesc(Pageable page);

    List<ImageRelease> findByCopyIdInOrderByAskedAtDesc(Collection<UUID> copyIds);
}
