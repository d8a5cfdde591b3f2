package app.granary.server.computer;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface UsedReadingRepository extends JpaRepository<UsedReading, Long> {
    List<UsedReading> findByDiskIdOrderByAt(String diskId);

    Optional<UsedReading> findFirstByDiskIdOrderByAtDesc(String diskId);
}
