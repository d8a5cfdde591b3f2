package app.granary.server.queue;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface RunRepository extends JpaRepository<RunRow, UUID> {
    List<RunRow> findAllByOrderByBegunAtDesc(Pageable page);

    List<RunRow> findByState(Run.State state);

    Optional<RunRow> findFirstByDestinationIdAndImageNameAndKindOrderByBegunAtDesc(String destinationId, String imageName, Run.Kind kind);

    @Query("select distinct r.night from Run r where r.night >= :first")
    List<LocalDate> nightsSince(LocalDate first);

    List<RunRow> findByNightOrderByBegunAt(LocalDate night);
}
