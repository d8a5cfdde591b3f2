package app.granary.server.image;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface ImageRepository extends JpaRepository<Image, UUID> {
    List<Image> findAllByOrderByMadeAtDesc();

    Optional<Image> findFirstByComputerOrderByMadeAtDesc(String computer);

    boolean existsByDestinationIdAndName(String destinationId, String name);
}
