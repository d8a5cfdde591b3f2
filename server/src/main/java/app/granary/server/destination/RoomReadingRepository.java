package app.granary.server.destination;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface RoomReadingRepository extends JpaRepository<RoomReading, Long> {
    List<RoomReading> findByDestinationIdOrderByAt(String destinationId);
}
