package app.granary.server.run;

import java.util.List;
import java.util.UUID;
import org.springframework.data.domain.Limit;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.JpaRepository;

interface RunRepository extends JpaRepository<Run, UUID> {
    List<Run> findByKindAndStateAndDestinationIdAndCodecAndDiskIdOrderByEndedAtDesc(Run.Kind kind, Run.State state, String destinationId, String codec, String diskId, Limit limit);

    List<Run> findByKindAndStateAndDestinationIdAndCodecOrderByEndedAtDesc(Run.Kind kind, Run.State state, String destinationId, String codec, Limit limit);

    List<Run> findAllByOrderByBegunAtDesc(Pageable page);

    List<Run> findByState(Run.State state);
}
