package app.granary.server.plan;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface PlanRepository extends JpaRepository<StoredPlan, UUID> {
    Optional<StoredPlan> findFirstByNameIgnoreCaseAndRemovedAtIsNull(String name);

    /**
     * A plan without its document.
     *
     * @param version moves on with every change
     */
    record Head(UUID id, LocalDate madeOn, boolean paused, long version) {
    }

    @Query("select new app.granary.server.plan.PlanRepository$Head(p.id, p.madeOn, p.paused, p.version) from Plan p where p.removedAt is "
        + "null order by p.name")
    List<Head> heads();
}
