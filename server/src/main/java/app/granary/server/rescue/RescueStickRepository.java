package app.granary.server.rescue;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface RescueStickRepository extends JpaRepository<RescueStick, UUID> {
    List<RescueStick> findAllByOrderByName();

    Optional<RescueStick> findByPendingRun(UUID runId);
}
