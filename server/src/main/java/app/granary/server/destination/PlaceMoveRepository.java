package app.granary.server.destination;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface PlaceMoveRepository extends JpaRepository<PlaceMove, Long> {
    List<PlaceMove> findByDestinationIdOrderByAtDesc(String destinationId);
}
