package app.granary.server.rollout;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface RolloutRepository extends JpaRepository<Rollout, UUID> {
    List<Rollout> findAllByOrderByBegunAtDesc();

    List<Rollout> findByEndedAtIsNull();
}
