package app.granary.server.computer;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface UsedReadingRepository extends JpaRepository<UsedReading, Long> {
    List<UsedReading> findByDiskIdOrderByAt(String diskId);

    /** The newest reading of every disk. */
    @Query("select r from UsedReading r where r.at = (select max(n.at) from UsedReading n where n.diskId = r.diskId)")
    List<UsedReading> newest();

    Optional<UsedReading> findFirstByDiskIdOrderByAtDesc(String diskId);
}
