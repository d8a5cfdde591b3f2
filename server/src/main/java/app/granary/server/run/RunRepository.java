package app.granary.server.run;

import java.util.List;
import java.util.UUID;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.JpaRepository;

interface RunRepository extends JpaRepository<Run, UUID> {
    List<Run> findAllByOrderByBegunAtDesc(Pageable page);

    List<Run> findByState(Run.State state);
}
