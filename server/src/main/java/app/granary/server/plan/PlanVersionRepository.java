package app.granary.server.plan;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface PlanVersionRepository extends JpaRepository<PlanVersion, Long> {
    List<PlanVersion> findByPlanIdOrderByIdDesc(UUID planId);
}
