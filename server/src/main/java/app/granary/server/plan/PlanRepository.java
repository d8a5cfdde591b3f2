package app.granary.server.plan;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface PlanRepository extends JpaRepository<StoredPlan, UUID> {
    List<StoredPlan> findByRemovedAtIsNullOrderByName();

    Optional<StoredPlan> findFirstByNameIgnoreCaseAndRemovedAtIsNull(String name);
}
