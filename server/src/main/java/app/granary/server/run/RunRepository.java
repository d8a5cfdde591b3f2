package app.granary.server.run;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.domain.Limit;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface RunRepository extends JpaRepository<Run, UUID> {
    List<Run> findByKindAndStateAndCodecOrderByEndedAtDesc(Run.Kind kind, Run.State state, String codec, Limit limit);

    List<Run> findAllByOrderByBegunAtDesc(Pageable page);

    List<Run> findByState(Run.State state);

    Optional<Run> findFirstByDestinationIdAndImageNameAndKindOrderByBegunAtDesc(String destinationId, String imageName, Run.Kind kind);

    @Query("select distinct r.night from Run r where r.night >= :first")
    List<LocalDate> nightsSince(LocalDate first);

    List<Run> findByNightOrderByBegunAt(LocalDate night);
}
