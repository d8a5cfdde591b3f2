package app.granary.server.rehearsal;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface RehearsalRepository extends JpaRepository<Rehearsal, UUID> {
    List<Rehearsal> findByImageIdOrderByAskedAtDesc(UUID imageId);

    Optional<Rehearsal> findByRunId(UUID runId);
}
